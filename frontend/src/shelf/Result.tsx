import type { Measured } from "../api/client";
import { Plot } from "../parts/Plot";
import { development, gradeName, signed } from "../wording/format";
import { BESIDE, CHOSEN, minus, NM } from "./curves";

const TENTHS = [0, 0.5, 1, 1.5, 2, 2.5, 3];

export function Result({ found }: { found: Measured | undefined }) {
  if (!found) {
    return (
      <p className="grid place-items-center rounded bg-well text-note text-soft">
        The curve is drawn here once readings are there.
      </p>
    );
  }
  if (found.spectrum) {
    const { from_nm, step_nm, ...rest } = found.spectrum as Record<string, unknown>;
    const [field = "", values] = Object.entries(rest)[0] ?? [];
    const y = values as number[];
    const curve = { x: y.map((_, i) => Number(from_nm) + i * Number(step_nm)), y };
    const logs = field === "log10";
    return (
      <Plot
        width={500}
        height={300}
        label="Spectrum as read"
        x={NM}
        y={
          logs
            ? { from: -3, to: 0.15, ticks: [-3, -2, -1, 0], label: "log sensitivity", text: minus }
            : { from: 0, to: 1.05, ticks: [0, 0.5, 1], label: field }
        }
        lines={[{ curve, fill: "spectrum" }]}
      />
    );
  }
  const { wedge, paper } = found;
  if (found.toner) return <TonerResult toner={found.toner} />;
  if (paper) return <PaperResult paper={paper} />;
  if (!wedge) return null;
  const first = wedge.curve.x[0] ?? 0;
  const last = wedge.curve.x.at(-1) ?? 1;
  const ticks = Array.from({ length: 9 }, (_, i) => Math.ceil(first) + i).filter((t) => t <= last);
  const top = Math.max(...wedge.points.y) + 0.2;
  const rows: [string, string][] = [
    [
      "ISO speed",
      wedge.speed
        ? `${Math.round(wedge.speed)}${wedge.iso ? "" : ", developed as ISO 6 asks"}`
        : wedge.absolute
          ? "not reached"
          : "exposures are relative",
    ],
    ["Rise over 1.30", wedge.rise == null ? "not reached" : `${wedge.rise.toFixed(2)} (ISO: 0.80)`],
    ["Contrast index", wedge.contrast_index?.toFixed(2) ?? "not reached"],
    ["Developed to", wedge.n == null ? "not reached" : development(Number(wedge.n.toFixed(2)))],
    ["Residuals", `rms ${wedge.rms.toFixed(3)} D`],
  ];
  return (
    <div>
      <Plot
        width={500}
        height={230}
        label="Densities as measured and the fitted curve"
        x={{
          from: first,
          to: last,
          ticks,
          label: wedge.absolute ? "log exposure, lx·s" : "log exposure, relative",
          text: minus,
        }}
        y={{ from: 0, to: top, ticks: TENTHS.filter((t) => t <= top), label: "density" }}
        lines={[{ curve: wedge.curve, colour: CHOSEN }]}
      >
        {(x, y) =>
          wedge.points.x.map((h, i) => (
            <circle key={h} cx={x(h)} cy={y(wedge.points.y[i] ?? 0)} r={2.6} fill="#e6e6e6" />
          ))
        }
      </Plot>
      <Residuals series={[wedge]} from={first} to={last} />
      <dl className="mt-2 grid grid-cols-[104px_1fr_104px_1fr] gap-y-0.5 text-note">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

/** A paper as its wedges show it: a curve and a row of figures for each grade. */
function PaperResult({ paper }: { paper: NonNullable<Measured["paper"]> }) {
  const { grades } = paper;
  const first = Math.min(...grades.map((g) => g.curve.x[0] ?? 0));
  const last = Math.max(...grades.map((g) => g.curve.x.at(-1) ?? 1));
  const ticks = Array.from({ length: 9 }, (_, i) => Math.ceil(first) + i).filter((t) => t <= last);
  const top = Math.max(...grades.flatMap((g) => g.points.y)) + 0.2;
  return (
    <div>
      <Plot
        width={500}
        height={230}
        label="Densities of the print as measured and the fitted curves"
        x={{ from: first, to: last, ticks, label: "log exposure", text: minus }}
        y={{ from: 0, to: top, ticks: TENTHS.filter((t) => t <= top), label: "density" }}
        lines={grades.map((grade, i) => ({ curve: grade.curve, colour: colourOf(i) }))}
      >
        {(x, y) =>
          grades.flatMap((grade, i) =>
            grade.points.x.map((h, k) => (
              <circle
                key={`${i}:${h}`}
                cx={x(h)}
                cy={y(grade.points.y[k] ?? 0)}
                r={2.4}
                fill={colourOf(i)}
              />
            )),
          )
        }
      </Plot>
      <Residuals series={grades} from={first} to={last} />
      <p className="mt-1 text-note text-soft">
        Base {paper.base_density.toFixed(2)} D, black{" "}
        {(paper.base_density + paper.net_density).toFixed(2)} D
        {paper.speed ? `, ISO P${paper.speed}` : ", exposures are relative"}
      </p>
      <table className="mt-2 w-full text-left text-note">
        <thead className="text-soft">
          <tr>
            {["Grade", "ISO R", "as grade", "Residuals"].map((head) => (
              <th key={head} className="font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {grades.map((grade, i) => (
            <tr key={grade.grade ?? "one"}>
              <td style={{ color: colourOf(i) }}>
                {grade.grade === null ? "as printed" : gradeName(grade.grade)}
              </td>
              <td>R{grade.iso_range}</td>
              <td>{gradeName(grade.nearest)}</td>
              <td>rms {grade.rms.toFixed(3)} D</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What two wedges tell of a toner. */
function TonerResult({ toner }: { toner: NonNullable<Measured["toner"]> }) {
  const values = [...toner.toned_a.y, ...toner.toned_b.y].map(Math.abs);
  const reach = 4 * Math.ceil(Math.max(12, ...values) / 4);
  const last = Math.max(...toner.toned_a.x);
  const measured = [toner.toned_a, toner.toned_b].flatMap(({ x, y }, i) =>
    x.map((density, k) => ({ density, value: y[k] ?? 0, colour: i ? "#e6e6e6" : CHOSEN })),
  );
  return (
    <div>
      <Plot
        width={500}
        height={260}
        label="a* and b* of the toned wedge over the untoned one's density"
        x={{ from: 0, to: last, ticks: TENTHS.filter((t) => t <= last), label: "density, untoned" }}
        y={{ from: -reach, to: reach, ticks: [-reach, 0, reach], text: minus, label: "a*, b*" }}
        lines={[
          { curve: toner.toned_a, dashed: true, colour: CHOSEN },
          { curve: toner.toned_b, colour: CHOSEN },
          { curve: toner.untoned, quiet: true },
        ]}
      >
        {(x, y) =>
          measured.map(({ density, value, colour }) => (
            <circle
              key={`${colour}${density}`}
              cx={x(density)}
              cy={y(value)}
              r={2.4}
              fill={colour}
            />
          ))
        }
      </Plot>
      <p className="mt-1 text-note text-soft">
        Dashed: a*, red above. Line: b*, yellow above; grey: untoned. Black{" "}
        {toner.black[0].toFixed(2)} D above the base becomes {toner.black[1].toFixed(2)}.
      </p>
    </div>
  );
}

const colourOf = (i: number) => (i ? (BESIDE[(i - 1) % BESIDE.length] ?? "#dcdcdc") : CHOSEN);

/** How far readings lie from their curves. */
function Residuals({
  series,
  from,
  to,
}: {
  series: { points: { x: number[] }; residuals: number[] }[];
  from: number;
  to: number;
}) {
  const worst = Math.max(...series.flatMap((one) => one.residuals.map(Math.abs)), 0.02);
  return (
    <Plot
      width={500}
      height={84}
      label="Residuals: measured less fitted density"
      x={{ from, to }}
      y={{
        from: -worst * 1.2,
        to: worst * 1.2,
        ticks: [-worst, 0, worst],
        label: "residual",
        text: (v) => (v === 0 ? "0" : signed(v, 2)),
      }}
      lines={[]}
    >
      {(x, y) =>
        series.flatMap(({ points, residuals }, i) =>
          points.x.map((h, k) => (
            <line
              key={`${i}:${h}`}
              x1={x(h) + 3 * i}
              x2={x(h) + 3 * i}
              y1={y(0)}
              y2={y(residuals[k] ?? 0)}
              stroke={series.length > 1 ? colourOf(i) : "#dcdcdc"}
              strokeWidth="2"
            />
          )),
        )
      }
    </Plot>
  );
}
