import { memo } from "react";
import { Plot } from "../../parts/Plot";
import type { StationPlot } from "../station";
import { CARD, NM } from "./axes";

export const LightPlot = memo(function LightPlot({ facts, small }: StationPlot) {
  return (
    <Plot
      {...(small ? CARD : {})}
      small={small}
      label="Spectral power of the light, and what the filter lets through"
      x={NM}
      y={{ from: 0, to: 1.05, ticks: [0, 0.5, 1], label: "relative power" }}
      lines={[
        { curve: facts.light, quiet: true },
        { curve: facts.through, fill: "spectrum" },
      ]}
    />
  );
});

/** Light, what glass passes, and their product. */
export const LightAndGlassPlot = memo(function LightAndGlassPlot({ facts }: StationPlot) {
  return (
    <Plot
      label="Spectral power of the light, transmittance of the glass, and their product"
      x={NM}
      y={{ from: 0, to: 1.3, ticks: [0, 0.5, 1], label: "relative" }}
      height={112}
      lines={[
        { curve: facts.light, quiet: true },
        { curve: facts.through, fill: "spectrum" },
        { curve: facts.filter, dashed: true },
      ]}
    >
      {(x, y) => (
        <g fontSize="10" fill="#adadad">
          <text x={x(900)} y={y(1.15)} textAnchor="end">
            dashed: glass · dotted: light
          </text>
        </g>
      )}
    </Plot>
  );
});
