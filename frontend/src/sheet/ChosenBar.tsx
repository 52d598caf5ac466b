import type { Frame, Mark, Roll } from "../api/client";
import { Button } from "../parts/Button";
import { MARKS } from "./FrameCard";
import { WaxIcon } from "./Wax";

interface ChosenBarProps {
  /** How many are chosen. */
  count: number;
  /** The frame, if it is one. */
  one: Frame | undefined;
  /** The mark that all have. */
  common: Mark | null;
  rolls: Roll[];
  current: number | null;
  facts: boolean;
  onMark: (mark: Mark) => void;
  onMove: (roll: number) => void;
  onBin: () => void;
  onMerge: () => void;
  onApply: () => void;
  onDeliver: () => void;
  onFacts: () => void;
}

/** What can be done with the frames that are chosen. */
export function ChosenBar(props: ChosenBarProps) {
  const {
    count,
    one,
    common,
    rolls,
    current,
    facts,
    onMark,
    onMove,
    onBin,
    onMerge,
    onApply,
    onDeliver,
    onFacts,
  } = props;
  const none = count === 0;
  return (
    <section
      aria-label="Chosen frames"
      className="flex h-10 shrink-0 items-center gap-1.5 border-t border-black bg-panel px-3 max-[1150px]:gap-1 max-[1150px]:px-2 max-[1150px]:[&_button]:px-1.5 wide:px-5"
    >
      <span className="mr-1 min-w-8 shrink-[4] truncate text-note text-soft">
        {none ? "No frame chosen" : one ? `${one.number} · ${one.title}` : `${count} frames chosen`}
      </span>
      {MARKS.map(({ mark, text }) => {
        const all = common === mark;
        return (
          <Button
            key={mark}
            disabled={none}
            pressed={all}
            title={text}
            aria-label={text}
            onClick={() => onMark(all ? "none" : mark)}
          >
            <WaxIcon mark={mark} />
          </Button>
        );
      })}
      <Button
        className="ml-2 max-[1150px]:ml-0"
        disabled={one ? one.kind !== "merged" : count < 2 || count > 15}
        title="Two to fifteen frames of one scene, exposed differently, become one capture; a merged one can be merged again"
        onClick={onMerge}
      >
        {one?.kind === "merged" ? "Merge again…" : "Merge…"}
      </Button>
      <Button
        disabled={none}
        title="Puts a recipe, or settings of another print, on the prints of these frames (Ctrl+V)"
        onClick={onApply}
      >
        Recipe…
      </Button>
      <Button
        disabled={none}
        title="Writes the prints of these frames to files"
        onClick={onDeliver}
      >
        Deliver…
      </Button>
      <select
        aria-label="Move to a roll"
        value=""
        disabled={none || rolls.length < 2}
        onChange={(event) => event.target.value && onMove(Number(event.target.value))}
        className="w-28 min-w-12 shrink rounded bg-raise px-2 py-1 text-[12.5px] disabled:text-[#6f6f6f]"
      >
        <option value="">Move to…</option>
        {rolls
          .filter((roll) => roll.id !== current)
          .map((roll) => (
            <option key={roll.id} value={roll.id}>
              {roll.name}
            </option>
          ))}
      </select>
      <Button disabled={none} title="Delete" onClick={onBin}>
        Put in the bin
      </Button>
      <Button className="ml-auto" title="F" pressed={facts} onClick={onFacts}>
        Facts
      </Button>
    </section>
  );
}
