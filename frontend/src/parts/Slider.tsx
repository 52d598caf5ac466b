import { Slider as Radix } from "radix-ui";
import { useState } from "react";
import { noteInput } from "../api/live";
import { readNumber } from "../wording/numbers";

export interface SliderProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** Where a double click or Delete brings it back to. */
  home: number;
  unit?: string;
  description?: string;
  /** What it sets, by station and field. */
  control?: string;
  /** How a value reads, and how what is typed becomes one; plain numbers without. */
  show?: (value: number) => string;
  read?: (text: string) => number;
  scale?: Scale;
  onPreview: (value: number) => void;
  onCommit: (value: number) => void;
}

/** From value to place on the track and back, e.g. for times. `step` is one of the track, or, with
 * a `grid`, values are multiples of what that gives about a value, one step apart. */
export interface Scale {
  to: (value: number) => number;
  from: (place: number) => number;
  grid?: (value: number) => number;
}

const SAID_MS = 2500;
const PLAIN: Scale = { to: (v) => v, from: (v) => v };
/** Steps of a key, by its name. */
const KEYS: Record<string, number> = {
  ArrowRight: 1,
  ArrowUp: 1,
  PageUp: 10,
  ArrowLeft: -1,
  ArrowDown: -1,
  PageDown: -10,
};
/** Places on a track of multiples. */
const FINE = 1000;

/** A value: slider, typed number with its unit, arrow keys (Shift: ten steps), Delete resets. */
export function Slider(props: SliderProps) {
  const { label, value, min, max, step, home, unit = "", description, onPreview, onCommit } = props;
  const { show = String, scale = PLAIN } = props;
  const { read = (text: string) => readNumber(text, unit) ?? Number.NaN } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, setRefused] = useState<"unread" | "beyond" | null>(null);
  const clamp = (next: number) => Math.min(Math.max(next, min), max);
  const span = scale.to(max) - scale.to(min);
  const even = (next: number) => {
    const grid = scale.grid?.(next);
    return clamp(grid ? Number((Math.round(next / grid) * grid).toFixed(4)) : next);
  };
  const place = (next: number) => `${((scale.to(clamp(next)) - scale.to(min)) / span) * 100}%`;
  const start = Math.min(scale.to(clamp(home)), scale.to(clamp(value)));
  const end = Math.max(scale.to(clamp(home)), scale.to(clamp(value)));

  const accept = () => {
    if (typed === null) return;
    const next = read(typed);
    setTyped(null);
    if (!Number.isFinite(next) || clamp(next) !== next) {
      // what is possible is said for a while, and the nearest of it taken
      setRefused(Number.isFinite(next) ? "beyond" : "unread");
      window.setTimeout(() => setRefused(null), SAID_MS);
    }
    if (Number.isFinite(next) && clamp(next) !== value) onCommit(clamp(next));
  };

  return (
    <div
      className="grid h-[27px] grid-cols-[92px_1fr_64px] items-center gap-2"
      data-control={props.control}
      title={description}
    >
      {refused ? (
        <span role="alert" className="truncate text-[12.5px] text-loss">
          {refused === "unread" && "A number, "}
          {show(min)} to {show(max)}
        </span>
      ) : (
        <span className="truncate text-[12.5px] text-soft">{label}</span>
      )}
      <Radix.Root
        value={[scale.to(value)]}
        min={scale.to(min)}
        max={scale.to(max)}
        step={scale.grid ? span / FINE : step}
        onValueChange={([next]) => {
          if (next === undefined) return;
          noteInput();
          onPreview(even(scale.from(next)));
        }}
        onValueCommit={([next]) => next !== undefined && onCommit(even(scale.from(next)))}
        onDoubleClick={() => onCommit(clamp(home))}
        onKeyDown={(event) => {
          const steps = KEYS[event.key];
          if (event.key === "Delete" || event.key === "Backspace") {
            event.preventDefault();
            onCommit(clamp(home));
          } else if (scale.grid && steps) {
            event.preventDefault();
            const far = event.shiftKey && Math.abs(steps) === 1 ? 10 * steps : steps;
            onCommit(even(value + far * scale.grid(value)));
          }
        }}
        className="relative flex h-[22px] cursor-pointer touch-none items-center select-none"
      >
        <Radix.Track className="relative h-0.5 grow bg-[#4a4a4a]">
          <span
            className="absolute h-full bg-amber"
            style={{
              left: `${((start - scale.to(min)) / span) * 100}%`,
              width: `${((end - start) / span) * 100}%`,
            }}
          />
          <span
            className="absolute top-[4px] h-[3px] w-px bg-[#6b6b6b]"
            style={{ left: place(home) }}
          />
        </Radix.Track>
        <Radix.Thumb
          aria-label={label}
          aria-valuetext={`${show(value)} ${unit}`}
          className="block h-3.5 w-[5px] rounded-[1.5px] bg-ink hover:bg-white"
        />
      </Radix.Root>
      <label className="flex items-baseline justify-end gap-1 text-[12.5px]">
        <input
          aria-label={`${label}${unit ? `, ${unit}` : ""}`}
          value={typed ?? show(value)}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={accept}
          onKeyDown={(event) => {
            if (event.key === "Enter") accept();
            if (event.key === "Escape") setTyped(null);
          }}
          className="w-full min-w-0 rounded-[2px] bg-transparent text-right hover:bg-well focus:bg-well"
        />
        {unit && <span className="shrink-0 text-small text-faint">{unit}</span>}
      </label>
    </div>
  );
}
