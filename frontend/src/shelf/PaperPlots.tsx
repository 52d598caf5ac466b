import type { ShelfPaper } from "../api/client";
import { Plot } from "../parts/Plot";
import { gradeName } from "../wording/format";
import { BESIDE, CHOSEN, minus } from "./curves";
import { Key, type PlotsProps, Titled } from "./Plots";

const X = {
  from: -1.6,
  to: 1.6,
  ticks: [-1.5, -1, -0.5, 0, 0.5, 1, 1.5],
  label: "log exposure from the speed point",
  text: minus,
};

/** Curves of a paper by grade, and of several at grade 2. */
export function PaperPlots({ lines, colours }: PlotsProps<ShelfPaper>) {
  const one = lines.at(-1);
  if (!one) return null;
  const most = Math.max(...lines.map((p) => p.base_density + p.net_density));
  const y = {
    from: 0,
    to: Math.ceil(most * 4) / 4,
    ticks: [0, 0.5, 1, 1.5, 2].filter((d) => d <= most),
    label: "density",
  };
  const shade = (i: number) => (i ? (BESIDE[(i - 1) % BESIDE.length] ?? "#dcdcdc") : CHOSEN);
  return (
    <>
      <Key lines={lines} colours={colours} />
      <Titled title={`${one.name}, by grade`}>
        <Plot
          width={640}
          height={240}
          label="Characteristic curves by grade"
          x={X}
          y={y}
          lines={one.on_grades.map(({ curve }, i) => ({ curve, colour: shade(i) }))}
        />
      </Titled>
      <ul className="mb-3 flex flex-wrap gap-x-5 gap-y-1 text-note">
        {one.on_grades.map(({ grade, iso_range }, i) => (
          <li key={grade} className="flex items-center gap-1.5">
            <span className="h-[3px] w-4" style={{ background: shade(i) }} />
            {gradeName(grade)}: R{iso_range}
          </li>
        ))}
      </ul>
      {lines.length > 1 && (
        <Titled title="Side by side, at grade 2 or the nearest; above the base">
          <Plot
            width={640}
            height={200}
            label="Curves of several papers"
            x={X}
            y={y}
            lines={lines.map((p) => ({ curve: p.curve, colour: colours.get(p.id) ?? "" }))}
          />
        </Titled>
      )}
    </>
  );
}
