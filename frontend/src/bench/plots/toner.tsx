import { memo } from "react";
import type { Facts } from "../../api/client";
import { Plot } from "../../parts/Plot";
import { useBench } from "../../state/bench";
import type { StationPlot } from "../station";

/** The print's scale in its own colours, from black to the base. */
const scaleOf = (facts: Facts) => `linear-gradient(90deg, ${facts.print_scale.join(",")})`;

const LEAST = 12;

/** What colour the print has along its scale. */
export const TonerPlot = memo(function TonerPlot({ facts, small }: StationPlot) {
  // where stops lie on the scale, it is above with them
  const scale = useBench(({ parts }) => parts.toner !== "stops");
  if (small)
    return (
      <div
        role="img"
        aria-label="Scale of the print"
        className="mt-2 h-5 w-full"
        style={{ background: scaleOf(facts) }}
      />
    );
  const reach = Math.max(
    LEAST,
    ...[...facts.print_a.y, ...facts.print_b.y].map((v) => 4 * Math.ceil(Math.abs(v) / 4)),
  );
  return (
    <div className="flex grow flex-col">
      {scale && (
        <div
          role="img"
          aria-label="Scale of the print, from black to the base"
          className="mr-2.5 ml-9 h-5 shrink-0"
          style={{ background: scaleOf(facts) }}
        />
      )}
      <p className="mt-0.5 mr-2.5 mb-1 ml-9 flex justify-between text-small text-soft">
        <span>black, {facts.print_most.toFixed(2)} D</span>
        <span>base</span>
      </p>
      <Plot
        label="a* and b* of the print along its scale"
        height={110}
        x={{ from: 0, to: 10, ticks: [0, 2, 4, 6, 8, 10], label: "print value" }}
        y={{
          from: -reach,
          to: reach,
          ticks: [-reach, 0, reach],
          text: (v) => (v > 0 ? `+${v}` : String(v).replace("-", "−")),
          label: "a*, b*",
        }}
        lines={[{ curve: facts.print_a, dashed: true }, { curve: facts.print_b }]}
      />
      <p className="mt-0.5 text-right text-small text-faint">
        dashed: a*, red above · line: b*, yellow above
      </p>
    </div>
  );
});
