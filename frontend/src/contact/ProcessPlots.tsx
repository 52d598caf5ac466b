import type { ProcessCurve } from "../api/types";
import { Plot } from "../parts/Plot";

const SHARES = [0, 0.25, 0.5, 0.75, 1];
const percent = (value: number) => `${Math.round(value * 100)}`;
const AMBER = "#e8a24a";

/** A process as it was measured, and the ink that puts it right. */
export function ProcessPlots({ curve }: { curve: ProcessCurve }) {
  const even = curve.curve.map((_, i) => i / (curve.curve.length - 1));
  const top = Math.ceil(Math.max(...curve.density, curve.black) * 2) / 2;
  const ticks = Array.from({ length: top * 2 + 1 }, (_, i) => i / 2);
  const rms = Math.hypot(...curve.residuals) / Math.sqrt(curve.residuals.length);
  const last = curve.density.length / curve.rounds;
  const facts: [string, string][] = [
    ["Range", `${curve.base.toFixed(2)} to ${curve.black.toFixed(2)} D`],
    ["Rounds", String(curve.rounds)],
    ["Residuals", `rms ${rms.toFixed(3)} D`],
    [
      curve.rounds > 1 ? "Last target" : "As it is",
      `at most ${curve.straight.toFixed(2)} D off a straight line`,
    ],
  ];
  return (
    <>
      <h2 className="text-head font-semibold">{curve.name}</h2>
      <dl className="mt-1 mb-3 flex flex-wrap gap-x-6 gap-y-1 text-note">
        {facts.map(([term, value]) => (
          <div key={term} className="flex gap-2">
            <dt className="text-faint">{term}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <div className="grid grid-cols-2 gap-6">
        <div className="flex flex-col">
          <h3 className="text-note text-soft">Print of the target</h3>
          <Plot
            width={520}
            height={430}
            label="Density of the print over ink of the negative, as measured and as fitted"
            x={{ from: 0, to: 1, ticks: SHARES, label: "ink, %", text: percent }}
            y={{ from: 0, to: top, ticks, label: "density" }}
            lines={[{ curve: { x: even, y: curve.curve }, colour: AMBER }]}
          >
            {(x, y) =>
              curve.ink.map((at, i) => (
                <circle
                  key={`${at} ${curve.density[i]}`}
                  cx={x(at)}
                  cy={y(curve.density[i] ?? 0)}
                  r={2.4}
                  fill={i >= curve.ink.length - last ? "#e6e6e6" : "#8a8a8a"}
                />
              ))
            }
          </Plot>
        </div>
        <div className="flex flex-col">
          <h3 className="text-note text-soft">Correction</h3>
          <Plot
            width={520}
            height={430}
            label="Ink of the negative over density of the print, from base to black"
            x={{
              from: 0,
              to: 1,
              ticks: SHARES,
              label: "density of the print, % of the range",
              text: percent,
            }}
            y={{ from: 0, to: 1, ticks: SHARES, label: "ink, %", text: percent }}
            lines={[
              { curve: { x: [0, 1], y: [1, 0] }, quiet: true },
              { curve: { x: even, y: curve.correction }, colour: AMBER },
            ]}
          />
        </div>
      </div>
    </>
  );
}
