import { memo } from "react";
import { Plot } from "../../parts/Plot";
import type { StationPlot } from "../station";
import { CARD } from "./axes";

export const EnlargerPlot = memo(function EnlargerPlot({ facts, small }: StationPlot) {
  const from = Math.log2(1.5);
  const to = Math.log2(96);
  const ticks = [1.5, 3, 6, 12, 24, 48, 96].map(Math.log2);
  const at = Math.min(Math.max(Math.log2(facts.time), from), to);
  const standard = Math.log2(facts.standard_time);
  return (
    <Plot
      {...(small ? CARD : {})}
      small={small}
      label="Base exposure beside the standard printing time"
      x={{ from, to, ticks, label: "seconds, each mark a stop", text: (v) => String(2 ** v) }}
      y={{ from: 0, to: 1 }}
      height={small ? CARD.height : 84}
      lines={[]}
    >
      {(x, y) => (
        <g>
          {ticks.map((tick) => (
            <line
              key={tick}
              x1={x(tick)}
              x2={x(tick)}
              y1={y(0)}
              y2={y(0.28)}
              stroke="#6b6b6b"
              vectorEffect="non-scaling-stroke"
            />
          ))}
          <line
            x1={x(standard)}
            x2={x(standard)}
            y1={y(0)}
            y2={y(0.9)}
            stroke="#949494"
            strokeDasharray="2 3"
            vectorEffect="non-scaling-stroke"
          />
          <rect
            x={x(from)}
            y={y(0.62)}
            width={Math.max(x(at) - x(from), 1)}
            height={y(0.4) - y(0.62)}
            fill="#c4c4c4"
          />
          <line
            x1={x(at)}
            x2={x(at)}
            y1={y(0.28)}
            y2={y(0.74)}
            stroke="#ffffff"
            strokeWidth="2"
            vectorEffect="non-scaling-stroke"
          />
        </g>
      )}
    </Plot>
  );
});
