import type { ShelfToner, ShelfToning } from "../api/client";
import { Plot } from "../parts/Plot";
import { minus } from "./curves";
import { Key, type PlotsProps, Titled } from "./Plots";

/** A print's scale in its own colours, from black to the base. */
export const Scale = ({ colours, className }: { colours: string[]; className: string }) => (
  <span
    aria-hidden
    className={`block w-full rounded-[2px] ${className}`}
    style={{ background: `linear-gradient(90deg, ${colours.join(",")})` }}
  />
);

const LEAST = 12;

/** Scales under each other, and a* and b* along them. */
export function TonerPlots({ lines, colours }: PlotsProps<ShelfToner | ShelfToning>) {
  const values = lines.flatMap((t) => [...t.a.y, ...t.b.y]);
  const reach = Math.max(LEAST, ...values.map((v) => 4 * Math.ceil(Math.abs(v) / 4)));
  const y = (label: string) => ({
    from: -reach,
    to: reach,
    ticks: [-reach, 0, reach],
    text: minus,
    label,
  });
  return (
    <>
      <Key lines={lines} colours={colours} />
      <Titled title="Scale of a print, from black to the base">
        <div className="flex flex-col gap-1.5 pr-2.5 pl-11">
          {[...lines].reverse().map((toning) => (
            <Scale key={toning.id} colours={toning.scale} className="h-10" />
          ))}
        </div>
      </Titled>
      {(["a", "b"] as const).map((axis) => (
        <Titled
          key={axis}
          title={axis === "a" ? "a*: red above, green below" : "b*: yellow above, blue below"}
        >
          <Plot
            width={640}
            height={190}
            label={`${axis}* over print value`}
            x={{ from: 0, to: 10, ticks: [0, 2, 4, 6, 8, 10], label: "print value" }}
            y={y(`${axis}*`)}
            lines={lines.map((t) => ({ curve: t[axis], colour: colours.get(t.id) ?? "" }))}
          />
        </Titled>
      ))}
    </>
  );
}
