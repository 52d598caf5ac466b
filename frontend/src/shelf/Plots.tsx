import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { api, type ShelfFilter, type ShelfLight, type ShelfStock } from "../api/client";
import { Plot } from "../parts/Plot";
import { reaching, ticksTo } from "../parts/reaching";
import { logged, minus, NM, spectrum } from "./curves";

export type Colours = Map<string, string>;

export function Titled({ title, children }: { title: string; children: ReactNode }) {
  return (
    <figure className="min-w-0">
      <figcaption className="mb-1 text-note font-[560]">{title}</figcaption>
      {children}
    </figure>
  );
}

/** Names of the lines, in their colours. */
export function Key({
  lines,
  colours,
}: {
  lines: { id: string; name: string }[];
  colours: Colours;
}) {
  if (lines.length < 2) return null;
  return (
    <ul className="mb-3 flex flex-wrap gap-x-4 gap-y-1 text-note">
      {[...lines].reverse().map((line) => (
        <li key={line.id} className="flex items-center gap-1.5">
          <span className="h-[3px] w-4" style={{ background: colours.get(line.id) }} />
          {line.name}
        </li>
      ))}
    </ul>
  );
}

export interface PlotsProps<T> {
  lines: T[];
  colours: Colours;
}

/** Sensitivity, characteristic curve, granularity. */
export function StockPlots({ lines, colours }: PlotsProps<ShelfStock>) {
  const single = lines.length === 1;
  const most = Math.max(...lines.flatMap((s) => s.grain_by_density.y), 20);
  const top = Math.ceil(most / 10) * 10;
  const dense = reaching(
    lines.map((s) => s.curve),
    2.4,
    2.6,
  );
  return (
    <>
      <Key lines={lines} colours={colours} />
      <Titled title="Spectral sensitivity">
        <Plot
          width={640}
          height={230}
          label="Spectral sensitivity, logarithmic"
          x={NM}
          y={{ from: -3, to: 0.15, ticks: [-3, -2, -1, 0], label: "log sensitivity", text: minus }}
          lines={lines.map((s) => ({
            curve: logged(s.sensitivity),
            fill: single ? ("spectrum" as const) : undefined,
            colour: single ? undefined : colours.get(s.id),
          }))}
        />
      </Titled>
      <div className="mt-4 grid grid-cols-2 gap-5">
        <Titled title="Characteristic curve, developed to N">
          <Plot
            width={310}
            height={220}
            label="Characteristic curve"
            x={{
              from: -2.4,
              to: 2.4,
              ticks: [-2, -1, 0, 1, 2],
              label: "log exposure from Zone V",
              text: minus,
            }}
            y={{ from: 0, to: dense, ticks: ticksTo(dense, 0.5), label: "density" }}
            lines={lines.map((s) => ({ curve: s.curve, colour: colours.get(s.id) }))}
          />
        </Titled>
        <Titled title="Granularity against density">
          <Plot
            width={310}
            height={220}
            label="Granularity against density"
            x={{
              from: 0,
              to: 2.5,
              ticks: [0, 0.5, 1, 1.5, 2, 2.5],
              label: "density above base and fog",
            }}
            y={{ from: 0, to: top, ticks: [0, top / 2, top], label: "rms granularity, 48 µm" }}
            lines={lines.map((s) => ({ curve: s.grain_by_density, colour: colours.get(s.id) }))}
          />
        </Titled>
      </div>
    </>
  );
}

interface FilterPlotsProps extends PlotsProps<ShelfFilter> {
  stocks: ShelfStock[];
  lights: ShelfLight[];
}

/** Transmittance, and what filters cost by film and light. */
export function FilterPlots({ lines, colours, stocks, lights }: FilterPlotsProps) {
  const single = lines.length === 1;
  const [stock, setStock] = useState("larch-100");
  const factors = useQuery({
    queryKey: ["factors", stock],
    queryFn: () => api.factors(stock),
    staleTime: Infinity,
  });
  const listed = [...lines].reverse().filter((f) => f.id !== "any-hue");
  const lit = [{ id: "daylight", name: "Daylight, 5500 K" }, ...lights];
  const found = (filter: string, light: string) =>
    factors.data?.factors.find((f) => f.filter === filter && f.light === light);
  return (
    <>
      <Key lines={lines} colours={colours} />
      <Titled title="Transmittance">
        <Plot
          width={640}
          height={230}
          label="Transmittance"
          x={NM}
          y={{ from: 0, to: 1, ticks: [0, 0.25, 0.5, 0.75, 1], label: "transmittance" }}
          lines={lines.map((f) => ({
            curve: spectrum(f.transmittance),
            fill: single ? ("spectrum" as const) : undefined,
            colour: single ? undefined : colours.get(f.id),
          }))}
        />
      </Titled>
      <div className="mt-4 flex items-baseline gap-3">
        <h2 className="text-note font-[560]">Filter factors</h2>
        <label className="flex items-center gap-2 text-note text-soft">
          on
          <select
            value={stock}
            onChange={(event) => setStock(event.target.value)}
            className="rounded-[3px] border border-transparent bg-well px-1.5 py-[3px] text-ink hover:border-lift"
          >
            {stocks.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      <table className="mt-2 w-full text-note">
        <thead>
          <tr className="text-left text-soft">
            <th className="py-1 font-normal">Light</th>
            {listed.map((f) => (
              <th key={f.id} className="px-2 py-1 text-right font-normal">
                {f.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lit.map((light) => (
            <tr key={light.id} className="border-t border-line">
              <td className="py-[3px]">{light.name}</td>
              {listed.map((f) => {
                const factor = found(f.id, light.id);
                return (
                  <td key={f.id} className="px-2 text-right">
                    {!factor ? "…" : factor.blind ? "blind" : `× ${factor.factor.toFixed(1)}`}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** Spectral power. */
export function LightPlots({ lines, colours }: PlotsProps<ShelfLight>) {
  const single = lines.length === 1;
  return (
    <>
      <Key lines={lines} colours={colours} />
      <Titled title="Spectral power">
        <Plot
          width={640}
          height={300}
          label="Spectral power"
          x={NM}
          y={{ from: 0, to: 1.05, ticks: [0, 0.25, 0.5, 0.75, 1], label: "relative power" }}
          lines={lines.map((l) => ({
            curve: spectrum(l.power),
            fill: single ? ("spectrum" as const) : undefined,
            colour: single ? undefined : colours.get(l.id),
          }))}
        />
      </Titled>
    </>
  );
}
