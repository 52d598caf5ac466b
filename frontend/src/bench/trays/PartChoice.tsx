import { Segments } from "../../parts/Segments";
import { type Parts, useTray } from "../../state/bench";
import { PART_TITLES, switchOf } from "../parts";

/** Which part of a station has its controls out; what is off is marked. */
export function PartChoice<S extends keyof Parts>({
  station,
  notes = {},
}: {
  station: S;
  /** What is said behind a part's name. */
  notes?: Partial<Record<Parts[S], string>>;
}) {
  const { parts, recipe, openPart } = useTray();
  const names = Object.entries(PART_TITLES[station]) as [Parts[S], string][];
  return (
    <div className="mb-3">
      <Segments
        label="Part of the station"
        value={parts[station]}
        onChange={(part) => openPart({ [station]: part } as Partial<Parts>)}
        options={names.map(([value, title]) => ({
          value,
          text: `${title}${notes[value] ?? ""}${
            recipe.off.includes(switchOf(station, value)) ? " ○" : ""
          }`,
        }))}
      />
    </div>
  );
}
