import { memo } from "react";
import { Plot } from "../../parts/Plot";
import { ROMAN } from "../../wording/format";
import type { StationPlot } from "../station";
import { CARD } from "./axes";

export const CapturePlot = memo(function CapturePlot({ reading, small }: StationPlot) {
  const counts = reading.exposure_histogram;
  const most = Math.max(...counts.slice(1, -1), 1);
  const curve = {
    x: counts.map((_, i) => 5 + (i + 0.5) / 4 - 8),
    y: counts.map((count) => Math.min(count / most, 1)),
  };
  return (
    <Plot
      {...(small ? CARD : {})}
      small={small}
      label="How much of the picture lies at each zone of the scene"
      x={{
        from: -1,
        to: 11,
        ticks: [1, 3, 5, 7, 9],
        label: "scene zone",
        text: (z) => ROMAN[z] ?? "",
      }}
      y={{ from: 0, to: 1.05 }}
      lines={[{ curve, fill: "grey" }]}
    />
  );
});

const CHANNELS = [
  { name: "red", colour: "#e0705f" },
  { name: "green", colour: "#7fb86a" },
  { name: "blue", colour: "#6f95d8" },
];

const PLACES = [-10, -7.6, -4.8];

/** Red, green and blue of the capture over stops below their limit, and what is left above them. */
export const ChannelPlot = memo(function ChannelPlot({ reading }: StationPlot) {
  const most = Math.max(...reading.channels.flatMap((counts) => counts.slice(1)), 1);
  return (
    <Plot
      label="How the capture's red, green and blue lie below the limit of their channels"
      height={128}
      x={{
        from: -10,
        to: 0.2,
        ticks: [-10, -8, -6, -4, -2, 0],
        label: "stops below the limit of the channel",
        text: (v) => String(v).replace("-", "−"),
      }}
      y={{ from: 0, to: 1.35 }}
      lines={reading.channels.map((counts, channel) => ({
        colour: CHANNELS[channel]?.colour,
        curve: {
          x: counts.map((_, i) => (i + 0.5) / 8 - 10),
          y: counts.map((count) => Math.sqrt(Math.min(count / most, 1))),
        },
      }))}
    >
      {(x, y) => (
        <g>
          <line x1={x(0)} x2={x(0)} y1={y(0)} y2={y(1.08)} stroke="#6b6b6b" strokeDasharray="2 2" />
          {CHANNELS.map(({ name, colour }, channel) => (
            <text key={name} x={x(PLACES[channel] ?? 0)} y={y(1.22)} fontSize="10" fill={colour}>
              {name} {(reading.headroom[channel] ?? 0).toFixed(1)}
            </text>
          ))}
          <text x={x(0)} y={y(1.22)} textAnchor="end" fontSize="10" fill="#adadad">
            stops left
          </text>
        </g>
      )}
    </Plot>
  );
});
