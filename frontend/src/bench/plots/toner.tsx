import { memo } from "react";
import type { Facts } from "../../api/client";
import { Plot } from "../../parts/Plot";
import type { StationPlot } from "../station";
import { CARD } from "./axes";

/** The print's scale in its own colours, from black to the base. */
const scaleOf = (facts: Facts) => `linear-gradient(90deg, ${facts.print_scale.join(",")})`;

const LEAST = 12;

/** What colour the print has along its scale. */
export const TonerPlot = memo(function TonerPlot({ facts, small }: StationPlot) {
  if (small)
    return (
      <div
        role="img"
        aria-label="Scale of the print"
        className="mt-2 h-5"
        style={{ background: scaleOf(facts), width: CARD.width && "100%" }}
      />
    );
  const reach = Math.max(
    LEAST,
    ...[...facts.print_a.y, ...facts.print_b.y].map((v) => 4 * Math.ceil(Math.abs(v) / 4)),
  );
  return (
    <div className="flex grow flex-col">
      <div
        role="img"
        aria-label="Scale of the print, from black to the base"
        className="mr-2.5 mb-1.5 ml-9 h-5 shrink-0"
        style={{ background: scaleOf(facts) }}
      />
      <Plot
        label="a* and b* of the print along its scale"
        height={130}
        x={{ from: 0, to: 10, ticks: [0, 2, 4, 6, 8, 10], label: "print value" }}
        y={{
          from: -reach,
          to: reach,
          ticks: [-reach, 0, reach],
          text: (v) => (v > 0 ? `+${v}` : String(v).replace("-", "−")),
          label: "a*, b*",
        }}
        lines={[{ curve: facts.print_a, dashed: true }, { curve: facts.print_b }]}
      >
        {(x, y) => (
          <text x={x(9.9)} y={y(-reach * 0.86)} textAnchor="end" fontSize="10" fill="#adadad">
            dashed: a*, red above · b*, yellow above
          </text>
        )}
      </Plot>
    </div>
  );
});
