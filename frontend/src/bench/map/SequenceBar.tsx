import { useBench } from "../../state/bench";
import { seconds } from "../../wording/format";
import type { StationPlot } from "../station";
import { letterOf } from "./passes";

/** The time under the enlarger: the base exposure with what is held back in its course, then what is
 * burned. */
export function SequenceBar({ facts: { sequence } }: StationPlot) {
  const chosen = useBench((bench) => bench.pass);
  const total = Math.max(...sequence.map((step) => step.ends), 1e-3);
  const marked = sequence.some(
    ({ what, begins, ends }) => what === "dodge" && begins + ends < 0.25 * total,
  );
  const percent = (value: number) => `${(100 * value) / total}%`;
  return (
    <figure aria-label="Sequence of exposures" className="text-small text-soft">
      <div className="relative h-2.5">
        {sequence.map(({ what, begins, ends, number }) => (
          <span
            key={`${what} ${number}`}
            className={`absolute h-full rounded-[1px] ${
              what === "dodge"
                ? "border-2 border-[#c4c4c4] bg-[#1a1a1a]"
                : what === "burn"
                  ? "border-l border-panel bg-[#8a8a8a]"
                  : "border-l border-panel bg-[#c4c4c4]"
            } ${number !== null && number === chosen ? "!border-amber !bg-amber" : ""}`}
            style={{ left: percent(begins), width: percent(ends - begins) }}
          />
        ))}
      </div>
      <div className="relative mt-0.5 h-4">
        {sequence.map(({ what, begins, ends, number }) =>
          number === null ? (
            what === "hard" || marked ? null : (
              <span key={what} className="absolute left-0">
                base
              </span>
            )
          ) : (
            <span
              key={`${what} ${number}`}
              className="absolute -translate-x-1/2"
              style={{ left: percent((begins + ends) / 2) }}
            >
              {letterOf(number)}
            </span>
          ),
        )}
        <span className="absolute right-0 bg-panel pl-1">{seconds(total)} s</span>
      </div>
    </figure>
  );
}
