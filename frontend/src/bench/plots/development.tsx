import { memo } from "react";
import { Plot } from "../../parts/Plot";
import { reaching, ticksTo } from "../../parts/reaching";
import type { StationPlot } from "../station";
import { CARD, STOP } from "./axes";

const SIGNED = (v: number) => String(v).replace("-", "−");

export const DevelopmentPlot = memo(function DevelopmentPlot({
  facts,
  reading,
  small,
}: StationPlot) {
  const [low, high] = facts.negative_range;
  const [speedAt, speedD] = facts.speed_point;
  const index = facts.contrast_index;
  const top = reaching([facts.negative], 2.1, 2.4);
  return (
    <Plot
      {...(small ? CARD : {})}
      small={small}
      label="Characteristic curve of the film as developed"
      x={{
        from: -2.1,
        to: 2.1,
        ticks: [-2, -1, 0, 1, 2],
        label: "log exposure from Zone V",
        text: SIGNED,
      }}
      y={{ from: 0, to: top, ticks: ticksTo(top, 1), label: "density" }}
      lines={[{ curve: facts.negative }]}
    >
      {(x, y) => (
        <g>
          {!small && (
            <>
              <line
                x1={x(-2.1)}
                x2={x(2.1)}
                y1={y(facts.base_fog)}
                y2={y(facts.base_fog)}
                stroke="#5a5a5a"
                strokeDasharray="2 3"
              />
              <line
                x1={x(speedAt)}
                x2={x(speedAt)}
                y1={y(0)}
                y2={y(speedD)}
                stroke="#7a7a7a"
                strokeDasharray="2 3"
              />
              <text x={x(speedAt) + 4} y={y(0) - 4} fontSize="10" fill="#adadad">
                speed point
              </text>
              {(["toe", "shoulder"] as const).map((part, i) => {
                const at = Math.min(Math.max(facts.straight[i] ?? 0, -2.1), 2.1);
                const end = i ? 2.1 : -2.1;
                const width = Math.abs(x(at) - x(end));
                return (
                  width > 4 && (
                    <g key={part}>
                      <rect
                        x={Math.min(x(at), x(end))}
                        y={y(top)}
                        width={width}
                        height={y(0) - y(top)}
                        fill="#fff"
                        opacity={0.05}
                      />
                      {width > 26 && (
                        <text
                          x={(x(at) + x(end)) / 2}
                          y={y(top) + 10}
                          textAnchor="middle"
                          fontSize="10"
                          fill="#adadad"
                        >
                          {part}
                        </text>
                      )}
                    </g>
                  )
                );
              })}
              {index != null && (
                <text x={x(0)} y={y(top) + 10} textAnchor="middle" fontSize="10.5" fill="#adadad">
                  contrast index {index.toFixed(2)}
                </text>
              )}
            </>
          )}
          {[
            [-4 * STOP, low, "I"],
            [3 * STOP, high, "VIII"],
          ].map(([h, d, name]) => (
            <g key={name}>
              <circle cx={x(Number(h))} cy={y(Number(d))} r={small ? 2 : 3} fill="#e6e6e6" />
              {!small && (
                <text
                  x={x(Number(h)) - 6}
                  y={y(Number(d)) - 6}
                  textAnchor="end"
                  fontSize="10.5"
                  fill="#adadad"
                >
                  {name} · {Number(d).toFixed(2)}
                </text>
              )}
            </g>
          ))}
          {reading.spots.map((spot) => {
            const h = Math.min(Math.max((spot.zone - 5) * STOP, -2.1), 2.1);
            return (
              <g key={spot.letter}>
                <circle
                  cx={x(h)}
                  cy={y(Math.min(spot.negative, top))}
                  r={small ? 2.5 : 3.5}
                  fill="#171717"
                  stroke="#e8a24a"
                  vectorEffect="non-scaling-stroke"
                />
                {!small && (
                  <text
                    x={x(h) + 6}
                    y={y(Math.min(spot.negative, top)) + 4}
                    fontSize="10.5"
                    fill="#e8a24a"
                  >
                    {spot.letter}
                  </text>
                )}
              </g>
            );
          })}
        </g>
      )}
    </Plot>
  );
});
