import { memo } from "react";
import { Plot } from "../parts/Plot";
import { ROMAN } from "../wording/format";
import type { StationPlot } from "./station";

/**
 * The plot of each station, on its card (small) and in its tray. They are drawn anew only when
 * readings arrive, not while a slider moves.
 */

const NM = { from: 380, to: 900, ticks: [400, 500, 600, 700, 800], label: "wavelength, nm" };
const CARD = { width: 189, height: 40 };
const STOP = Math.log10(2);

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

const SIGNED = (v: number) => String(v).replace("-", "−");

export const DevelopmentPlot = memo(function DevelopmentPlot({
  facts,
  reading,
  small,
}: StationPlot) {
  const [low, high] = facts.negative_range;
  const [speedAt, speedD] = facts.speed_point;
  const index = facts.contrast_index;
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
      y={{ from: 0, to: 2.4, ticks: [0, 1, 2], label: "density" }}
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
                        y={y(2.4)}
                        width={width}
                        height={y(0) - y(2.4)}
                        fill="#fff"
                        opacity={0.05}
                      />
                      {width > 26 && (
                        <text
                          x={(x(at) + x(end)) / 2}
                          y={y(2.4) + 10}
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
                <text x={x(0)} y={y(2.4) + 10} textAnchor="middle" fontSize="10.5" fill="#adadad">
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
                  cy={y(Math.min(spot.negative, 2.4))}
                  r={small ? 2.5 : 3.5}
                  fill="#171717"
                  stroke="#e8a24a"
                  vectorEffect="non-scaling-stroke"
                />
                {!small && (
                  <text
                    x={x(h) + 6}
                    y={y(Math.min(spot.negative, 2.4)) + 4}
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

export const PaperPlot = memo(function PaperPlot({ facts, small }: StationPlot) {
  return (
    <Plot
      {...(small ? CARD : {})}
      small={small}
      label="Curve of the paper at its grade"
      x={{
        from: -1.4,
        to: 1.2,
        ticks: [-1, -0.5, 0, 0.5, 1],
        label: "log exposure of the paper",
        text: (v) => String(v).replace("-", "−"),
      }}
      y={{ from: 0, to: 2.25, ticks: [0, 1, 2], label: "print density" }}
      lines={[{ curve: facts.paper }]}
    />
  );
});
