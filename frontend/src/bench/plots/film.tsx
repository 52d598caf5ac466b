import { memo } from "react";
import { Plot } from "../../parts/Plot";
import type { StationPlot } from "../station";
import { CARD, NM } from "./axes";

export const FilmPlot = memo(function FilmPlot({ facts, small }: StationPlot) {
  const log = {
    x: facts.sensitivity.x,
    y: facts.sensitivity.y.map((s) => Math.max(-3, Math.log10(Math.max(s, 1e-4)))),
  };
  return (
    <Plot
      {...(small ? CARD : {})}
      small={small}
      label="Spectral sensitivity of the film"
      x={NM}
      y={{ from: -3, to: 0.15, ticks: [-3, -2, -1, 0], label: "log sensitivity" }}
      lines={[{ curve: log, fill: "spectrum" }]}
    />
  );
});

export const GrainPlot = memo(function GrainPlot({ facts }: StationPlot) {
  const most = Math.max(...facts.grain.y, 20);
  const top = Math.ceil(most / 10) * 10;
  return (
    <Plot
      label="Granularity against density"
      x={{ from: 0, to: 2, ticks: [0, 0.5, 1, 1.5, 2], label: "density above base and fog" }}
      y={{ from: 0, to: top, ticks: [0, top / 2, top], label: "rms granularity" }}
      lines={[{ curve: facts.grain }]}
    >
      {(x, y) => {
        const at = facts.grain.y[10] ?? 0;
        return (
          <g>
            <circle cx={x(1)} cy={y(at)} r={3} fill="#e6e6e6" />
            <text x={x(1) + 7} y={y(at) + 12} fontSize="10.5" fill="#adadad">
              {at.toFixed(1)} at 1.0
            </text>
          </g>
        );
      }}
    </Plot>
  );
});
