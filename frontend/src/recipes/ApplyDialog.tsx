import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { type Applied, api } from "../api/client";
import { Button } from "../parts/Button";
import { copiedPrint } from "./copied";
import { placesOf, SettingsChoice } from "./SettingsChoice";
import { Sheet } from "./Sheet";

interface ApplyProps {
  frames: number[];
  /** What must be kept before. */
  before?: () => Promise<void>;
  onDone: () => void;
  onClose: () => void;
}

const AT_ONCE = 50; // frames: after each lot it can be cancelled

interface Done {
  application: number | null;
  report: Applied[];
  ended: boolean;
}

/** Puts a recipe, or settings of another print, on the prints of frames; takes it back. */
export function ApplyDialog({ frames, before, onDone, onClose }: ApplyProps) {
  const recipes = useQuery({ queryKey: ["recipes"], queryFn: api.recipes });
  const last = useQuery({ queryKey: ["last print"], queryFn: api.lastPrint, retry: false });
  const copied = useQuery({
    queryKey: ["settings", copiedPrint()],
    queryFn: () => api.settingsOf(copiedPrint() ?? 0),
    enabled: copiedPrint() !== null,
    retry: false,
  });
  const [picked, setPicked] = useState<string | null>(null);
  const [choice, setChoice] = useState<{ of: string; chosen: Set<string> } | null>(null);
  const [done, setDone] = useState<Done | null>(null);
  const [wrong, setWrong] = useState<Error | null>(null);
  const cancelled = useRef(false);

  const kept = (recipes.data ?? []).filter((each) => !each.binned);
  const sources = [
    ...(copied.data
      ? [{ key: "copied", text: `copied: ${copied.data.name}`, of: copied.data }]
      : []),
    ...(last.data
      ? [{ key: "last", text: `as the last print: ${last.data.name}`, of: last.data }]
      : []),
  ];
  const source = picked ?? sources[0]?.key ?? (kept[0] && String(kept[0].id)) ?? null;
  const print = sources.find(({ key }) => key === source)?.of;
  const recipe = kept.find(({ id }) => String(id) === source);
  const holds = print?.holds ?? recipe?.holds ?? {};
  const usual = print?.usual ?? placesOf(holds);
  const chosen = choice?.of === source ? choice.chosen : new Set(usual);

  const apply = async () => {
    cancelled.current = false;
    let now: Done = { application: null, report: [], ended: false };
    setDone(now);
    setWrong(null);
    try {
      await before?.();
      for (let i = 0; i < frames.length && !cancelled.current; i += AT_ONCE) {
        const { id, report } = await api.apply({
          frames: frames.slice(i, i + AT_ONCE),
          recipe_id: recipe?.id ?? null,
          print_id: print?.print_id ?? null,
          fields: [...chosen],
          application: now.application,
        });
        now = { application: id, report: [...now.report, ...report], ended: false };
        setDone(now);
      }
      setDone({ ...now, ended: true });
    } catch (error) {
      setWrong(error as Error);
      setDone(now.application === null ? null : { ...now, ended: true });
    }
    onDone();
  };
  const undo = async () => {
    if (!done?.application) return;
    try {
      setDone({ application: null, report: await api.takeBack(done.application), ended: true });
    } catch (error) {
      setWrong(error as Error);
    }
    onDone();
  };
  const many = `${frames.length} ${frames.length === 1 ? "frame" : "frames"}`;
  return (
    <Sheet
      title={`Put settings on ${many}`}
      about="On the chosen print of each frame, or on a new one. What is of the frame stays; one step takes all of it back."
      wrong={wrong ?? recipes.error}
      onClose={onClose}
      buttons={
        done ? (
          <>
            {!done.ended && (
              <Button
                onClick={() => {
                  cancelled.current = true;
                }}
              >
                Cancel
              </Button>
            )}
            {done.ended && done.application !== null && (
              <Button onClick={undo}>Take all back</Button>
            )}
            {done.ended && (
              <Button go onClick={onClose}>
                Close
              </Button>
            )}
          </>
        ) : (
          <>
            <Button onClick={onClose}>Cancel</Button>
            <Button go disabled={!source || chosen.size === 0} onClick={apply}>
              Put on {many}
            </Button>
          </>
        )
      }
    >
      {done ? (
        <Report done={done} total={frames.length} />
      ) : (
        <>
          <label className="mb-2 grid grid-cols-[64px_1fr] items-center gap-2 text-[12.5px]">
            <span className="text-soft">What</span>
            <select
              value={source ?? ""}
              onChange={(event) => setPicked(event.target.value)}
              className="min-w-0 rounded-[3px] bg-well px-2 py-1"
            >
              {!source && <option value="">no recipe and no print yet</option>}
              {sources.map(({ key, text }) => (
                <option key={key} value={key}>
                  {text}
                </option>
              ))}
              {kept.length > 0 && (
                <optgroup label="Recipes">
                  {kept.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </optgroup>
              )}
            </select>
          </label>
          {print && <p className="mb-2 text-small text-faint">{print.frame}</p>}
          <SettingsChoice
            holds={holds}
            chosen={chosen}
            onChoose={(next) => source && setChoice({ of: source, chosen: next })}
          />
        </>
      )}
    </Sheet>
  );
}

const WORDS: Record<Applied["how"], string> = {
  changed: "changed",
  made: "new",
  same: "as before",
  "taken back": "taken back",
  left: "left",
  refused: "refused",
};

function Report({ done, total }: { done: Done; total: number }) {
  const counts = new Map<Applied["how"], number>();
  for (const { how } of done.report) counts.set(how, (counts.get(how) ?? 0) + 1);
  const said = [...counts].map(([how, count]) => `${count} ${WORDS[how]}`).join(", ");
  const odd = done.report.filter(({ how }) => how === "refused" || how === "left");
  return (
    <>
      <p role="status" className="text-[12.5px]">
        {done.ended ? said || "Nothing was changed." : `${done.report.length} of ${total}…`}
      </p>
      {!done.ended && (
        <div className="mt-2 h-1 bg-well">
          <div
            className="h-full bg-amber"
            style={{ width: `${(100 * done.report.length) / total}%` }}
          />
        </div>
      )}
      <ul aria-label="What was left out" className="mt-2 text-small text-loss">
        {odd.map(({ frame_id, frame, words }) => (
          <li key={frame_id}>
            {frame || `Frame ${frame_id}`}: {words}
          </li>
        ))}
      </ul>
    </>
  );
}
