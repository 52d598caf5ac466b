import { ENDED, type Import } from "./imports";

const SAY = {
  waiting: "waiting",
  sending: "sending",
  reading: "looked over",
  done: "on the sheet",
  known: "here already",
  print: "a print",
  refused: "refused",
} as const;

/** How each file fares that is being taken in. */
export function ImportList(props: {
  items: Import[];
  onClear: () => void;
  onAsPicture: (item: Import) => void;
}) {
  const { items, onClear, onAsPicture } = props;
  if (items.length === 0) return null;
  const refused = items.filter((item) => item.stage === "refused").length;
  const taken = items.filter((item) => item.stage === "done").length;
  const known = items.filter((item) => item.stage === "known").length;
  const ended = items.every((item) => ENDED.includes(item.stage));
  return (
    <section aria-label="Being taken in" className="mt-4 flex min-h-0 flex-col">
      <div className="flex items-baseline justify-between text-note text-soft">
        <h2 className="font-medium">
          {taken} of {items.length} taken in{known > 0 && `, ${known} here already`}
          {refused > 0 && `, ${refused} refused`}
        </h2>
        {ended && (
          <button type="button" onClick={onClear} className="text-soft hover:text-ink">
            Clear
          </button>
        )}
      </div>
      <ul className="mt-2 flex min-h-0 flex-col gap-2.5 overflow-y-auto pr-1">
        {items.map((item) => (
          <li key={item.id} className="text-note">
            <div className="flex justify-between gap-2">
              <span className="truncate">{item.name}</span>
              <span className={`shrink-0 ${item.stage === "refused" ? "text-loss" : "text-faint"}`}>
                {SAY[item.stage]}
              </span>
            </div>
            {item.stage === "refused" ? (
              <p className="mt-0.5 text-small text-soft">
                {item.reason?.replace(`${item.name}: `, "")}
                {item.delivered && (
                  <button
                    type="button"
                    className="ml-1 underline hover:text-ink"
                    onClick={() => onAsPicture(item)}
                  >
                    Take it in as a picture
                  </button>
                )}
              </p>
            ) : (
              <div className="mt-1 h-0.5 bg-[#3d3d3d]">
                <div
                  className={`h-full bg-amber ${item.stage === "reading" ? "animate-pulse" : ""}`}
                  style={{ width: `${item.share * 100}%` }}
                />
              </div>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
