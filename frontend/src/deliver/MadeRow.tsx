import { Tick } from "../parts/Field";

/** Something that can be made: ticked, begun from, taken off. */
export function MadeRow(props: {
  on: boolean;
  name: string;
  lines: string[];
  onTick: (on: boolean) => void;
  onBegin?: () => void;
  onRemove?: () => void;
}) {
  const { on, name, lines, onTick, onBegin, onRemove } = props;
  return (
    <div className="group mb-2 rounded-[3px] px-1.5 py-1 hover:bg-raise">
      <div className="flex items-center justify-between gap-2">
        <Tick on={on} onTick={onTick}>
          <span className="font-medium text-ink">{name}</span>
        </Tick>
        <span className="flex gap-2 text-note text-faint opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
          {onBegin && (
            <button
              type="button"
              className="hover:text-ink"
              title={`Begin this file as ${name} is`}
              onClick={onBegin}
            >
              change…
            </button>
          )}
          {onRemove && (
            <button type="button" className="hover:text-ink" onClick={onRemove}>
              take off
            </button>
          )}
        </span>
      </div>
      {lines.map((line) => (
        <p key={line} className="pl-5 text-small text-faint">
          {line}
        </p>
      ))}
    </div>
  );
}
