import { memo } from "react";
import type { PassShape } from "../../api/client";
import { Plot } from "../../parts/Plot";
import { sizeOf, useBench } from "../../state/bench";
import { passesOf } from "../map/passes";
import { linesOf, type Where } from "../map/shapes";
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

/** On the card: what is dodged and burned, small, beside the time. */
export function EnlargerCard(props: StationPlot) {
  const size = useBench(sizeOf);
  const { passes, shape } = useBench((bench) => ({
    passes: passesOf(bench.recipe),
    shape: bench.shape,
  }));
  if (!passes.length) return <EnlargerPlot {...props} />;
  const where = { shape, size };
  const long = Math.max(size.width, size.height);
  return (
    <div className="flex h-full items-center gap-2">
      <svg
        viewBox={`0 0 ${size.width} ${size.height}`}
        role="img"
        aria-label="Printing map"
        className="h-full max-w-[45%] shrink-0 rounded-[2px] bg-[#4a4a4a]"
      >
        {passes
          .filter((pass) => pass.on)
          .map((pass, index) => (
            <g
              key={index}
              fill={pass.stops < 0 ? "#f2efe6" : "#111"}
              fillOpacity={Math.min(0.25 + Math.abs(pass.stops) / 3, 0.7)}
              stroke={pass.stops < 0 ? "#f2efe6" : "#111"}
              strokeWidth={long / 60}
            >
              {pass.shapes.map((each, which) => (
                <Small key={which} shape={each} where={where} />
              ))}
            </g>
          ))}
      </svg>
      <div className="h-full min-w-0 flex-1">
        <EnlargerPlot {...props} />
      </div>
    </div>
  );
}

function Small({ shape, where }: { shape: PassShape; where: Where }) {
  const { width, height } = where.size;
  if (shape.kind === "sky") return <rect width={width} height={height * 0.3} stroke="none" />;
  if (shape.kind === "sides" || shape.kind === "oval" || shape.kind === "fall-off")
    return (
      <rect width={width} height={height} fill="none" strokeWidth={width / 6} strokeOpacity={0.4} />
    );
  const [line] = linesOf(shape, where);
  if (!line) return <rect width={width} height={height} fillOpacity={0.15} stroke="none" />;
  const points = line.points.map((p) => `${p.x.toFixed(0)},${p.y.toFixed(0)}`).join(" ");
  return line.closed ? (
    <polygon points={points} stroke="none" />
  ) : (
    <polyline points={points} fill="none" />
  );
}
