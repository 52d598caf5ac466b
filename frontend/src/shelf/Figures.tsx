import type { ShelfPaper } from "../api/client";
import { bathsOf } from "../bench/toning/kinds";
import { exposureIndex, gradeName } from "../wording/format";
import type { Thing } from "./ShelfPage";

const CLASSES: [number, string][] = [
  [7.5, "extremely fine"],
  [10.5, "very fine"],
  [15.5, "fine"],
  [20.5, "medium"],
  [30.5, "moderately coarse"],
];
const grainClass = (rms: number) => CLASSES.find(([most]) => rms < most)?.[1] ?? "coarse";

/** What is known of a thing on the shelf. */
export function Figures({ thing }: { thing: Thing }) {
  const rows: [string, string][] =
    "tint" in thing
      ? paperRows(thing)
      : "speed" in thing
        ? [
            ["Kind", thing.kind],
            ["Speed", `ISO ${thing.speed}`],
            ["Zone index", `EI ${exposureIndex(thing.zone_index)}, Zone I at 0.10 with N`],
            ["Contrast index", thing.contrast_index?.toFixed(2) ?? "not reached"],
            ["Granularity", `rms ${thing.granularity}, ${grainClass(thing.granularity)}`],
            ["Grain", `${thing.grain_kind}, ${thing.grain} µm`],
            ["Resolving power", `${thing.resolving_power} lines per mm`],
            ["Halation", `${(thing.halation * 100).toFixed(1)} % of red light`],
            ["Sees to", `${limit(thing.sensitivity)} nm`],
          ]
        : "takes" in thing
          ? [
              [
                "Takes",
                thing.takes === "throughout" ? "all densities alike" : `${thing.takes} first`,
              ],
            ]
          : "scale" in thing
            ? [["Does", bathsOf(thing.toner) || "Washes alone"]]
            : "colour" in thing
              ? [
                  ["Colour", thing.colour],
                  ["Passes most", `${peak(thing.transmittance)} nm`],
                  ["There", `${Math.round(Math.max(...thing.transmittance) * 100)} %`],
                ]
              : [
                  ["Kind", thing.kind],
                  ["Strongest at", `${peak(thing.power)} nm`],
                ];
  return (
    <>
      <h2 className="text-head font-semibold">{thing.name}</h2>
      <p className="mt-1 mb-3 text-note text-soft">{thing.about}</p>
      <dl className="grid grid-cols-[104px_1fr] gap-y-1 text-note">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {thing.source && <p className="mt-4 text-small text-faint">{thing.source}</p>}
    </>
  );
}

const point = (v: number) => (Math.abs(v) < 0.05 ? "0" : v.toFixed(1).replace("-", "−"));

function paperRows(paper: ShelfPaper): [string, string][] {
  const middle = paper.on_grades.find(({ grade }) => grade === 2) ?? paper.on_grades[0];
  const [lightness, a, b] = paper.base_lab;
  return [
    ["Surface", `${paper.surface}, ${paper.support}`],
    ["Kind", paper.kind],
    ["Speed", `ISO P${paper.speed}`],
    ["Range", middle ? `R${middle.iso_range} at grade ${gradeName(middle.grade)}` : ""],
    ["Black", `${(paper.base_density + paper.net_density).toFixed(2)} D`],
    [
      "Base",
      `${paper.base_density.toFixed(2)} D, L* ${point(lightness)} a* ${point(a)} b* ${point(b)}`,
    ],
    ["Image", `a* ${point(paper.image[0])} b* ${point(paper.image[1])} in middle tones`],
  ];
}

const peak = (values: number[]) => 380 + 10 * values.indexOf(Math.max(...values));

/** The longest wavelength at which a film has a hundredth of its best sensitivity. */
const limit = (values: number[]) => 380 + 10 * values.findLastIndex((v) => v >= 0.01);
