import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useLocation } from "wouter";
import { api, chosenOf, type Frame, type Mark } from "../api/client";
import { DeliverDialog } from "../deliver/DeliverDialog";
import { Button } from "../parts/Button";
import { Header } from "../parts/Header";
import { Notable, useNotice } from "../parts/Notice";
import { Question } from "../parts/Question";
import { ApplyDialog } from "../recipes/ApplyDialog";
import { copyPrint } from "../recipes/copied";
import { Brackets } from "./Brackets";
import { ChosenBar } from "./ChosenBar";
import { Empty } from "./Empty";
import { FactsPanel } from "./FactsPanel";
import { FolderDialog } from "./FolderDialog";
import { DRAGGED } from "./FrameCard";
import { FrameGrid } from "./FrameGrid";
import { droppedFiles, useImports } from "./imports";
import { Lost } from "./Lost";
import { MergeDialog } from "./MergeDialog";
import { commonMark, NO_FRAMES, shownOf } from "./order";
import { type Look, SheetHead } from "./SheetHead";
import { SheetSide } from "./SheetSide";
import { useChoice } from "./useChoice";
import { MOST, useFrames } from "./useFrames";
import { useSheet } from "./useSheet";
import { useSheetKeys } from "./useSheetKeys";

/** The first screen: rolls, and the frames of one of them as a contact sheet. */
export function SheetPage({ rollId }: { rollId: number | null }) {
  const [, go] = useLocation();
  const tell = useNotice();
  const queries = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const scroller = useRef<HTMLElement>(null);
  const columns = useRef(4);
  const [over, setOver] = useState(false);
  const [only, setOnly] = useState<Mark | null>(null);
  const [look, setLook] = useState<Look>({ show: "printed", search: "", order: "number" });
  const { search, order } = look;
  const [facts, setFacts] = useState(false);
  const [folder, setFolder] = useState(false);
  const [binning, setBinning] = useState(false);
  const [merging, setMerging] = useState<{ frames: Frame[]; again?: Frame } | null>(null);
  const [applying, setApplying] = useState(false);
  const [delivering, setDelivering] = useState(false);
  const [reveal, setReveal] = useState<{ id: number } | null>(null);

  const rolls = useQuery({ queryKey: ["rolls"], queryFn: api.rolls });
  const current = rollId ?? rolls.data?.[0]?.id ?? null;
  const roll = rolls.data?.find((r) => r.id === current);
  const sheet = useSheet(current, search, order);
  const { whole, mark } = sheet;
  const all = whole.data ?? NO_FRAMES;
  const found = sheet.found.data ?? NO_FRAMES;
  const shown = useMemo(() => shownOf(found, only, order === "mark"), [found, only, order]);
  const choice = useChoice(shown);
  const common = useMemo(() => commonMark(found, choice.all), [found, choice.all]);
  const known = useMemo(
    () => (choice.all.length > MOST && choice.at !== null ? [choice.at] : choice.all),
    [choice.all, choice.at],
  );
  const frames = useFrames(known);
  const chosen = frames.find((frame) => frame.id === choice.at);

  const imports = useImports(
    current,
    useCallback((id: number) => go(`/roll/${id}`), [go]),
    useCallback((id: number) => go(`/print/${id}`), [go]),
  );
  const take = (files: File[]) => imports.take(files).catch(tell);
  const { mutate: openFrame } = sheet.open;
  const onMark = useCallback(
    (frame: Frame, to: Mark) => mark.mutate({ some: [frame.id], to }),
    [mark.mutate],
  );
  const markChosen = (to: Mark) =>
    choice.all.length > 0 && mark.mutate({ some: choice.all, to: to === common ? "none" : to });
  const binChosen = () => {
    if (choice.all.length > 0) sheet.bin.mutate(choice.all);
    choice.clear();
  };
  const merge = () => setMerging({ frames, again: frames.length === 1 ? frames[0] : undefined });

  useEffect(() => {
    const error = rolls.error ?? whole.error ?? sheet.found.error;
    if (error) tell(error);
  }, [rolls.error, whole.error, sheet.found.error, tell]);

  const onKey = useSheetKeys({
    shown,
    choice,
    columns,
    onReveal: setReveal,
    onMark: markChosen,
    onBin: binChosen,
    onFacts: () => setFacts(!facts),
    onCopy: () => {
      const of = chosen && chosenOf(chosen);
      if (of) tell(new Notable("Copied", copyPrint(of)));
    },
    onPaste: () => choice.all.length > 0 && setApplying(true),
    onOpen: (id) => {
      if (chosen?.id === id) openFrame(chosen);
      else api.frame(id).then(openFrame, tell);
    },
  });
  const fits = choice.all.length >= 2 && choice.all.length <= 4;

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys of the whole page, and what is dropped on it
    <div
      className="flex h-full flex-col"
      onKeyDown={onKey}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(DRAGGED)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => event.relatedTarget === null && setOver(false)}
      onDrop={async (event) => {
        if (event.dataTransfer.types.includes(DRAGGED)) return;
        event.preventDefault();
        setOver(false);
        take(await droppedFiles(event.dataTransfer));
      }}
    >
      <Header
        actions={
          <>
            <Button
              disabled={!fits}
              title="Two to four frames side by side: choose them with Ctrl or Shift held"
              onClick={() => go(`/compare/${choice.all.join(",")}`)}
            >
              Compare{fits ? ` ${choice.all.length}` : ""}
            </Button>
            <Button
              go
              disabled={!chosen || sheet.open.isPending}
              onClick={() => chosen && openFrame(chosen)}
            >
              {chosen?.prints.length ? "Open print" : "Make print"}
            </Button>
          </>
        }
      >
        <b className="font-[560] text-ink">Contact sheet</b>
      </Header>
      <input
        ref={picker}
        type="file"
        multiple
        aria-label="Choose captures"
        className="hidden"
        onChange={(event) => {
          take([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <div
        className={`grid min-h-0 flex-1 ${facts ? "grid-cols-[236px_1fr_264px]" : "grid-cols-[236px_1fr]"}`}
      >
        <SheetSide
          sheet={sheet}
          rolls={rolls.data ?? []}
          current={current}
          all={all}
          only={only}
          onOnly={setOnly}
          over={over}
          imports={imports}
          onFiles={() => picker.current?.click()}
          onFolder={() => setFolder(true)}
        />

        <div className="flex min-h-0 min-w-0 flex-col">
          <main ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto px-5 py-4">
            {rolls.data?.length === 0 ? (
              <Empty over={over} onChoose={() => picker.current?.click()}>
                Drop captures anywhere in this window
              </Empty>
            ) : (
              <>
                <SheetHead
                  sheet={sheet}
                  roll={roll}
                  shown={shown.length}
                  look={look}
                  onLook={(next) => setLook((now) => ({ ...now, ...next }))}
                  onBin={() => (all.frames.length > 0 ? setBinning(true) : sheet.binRoll.mutate())}
                />
                <Lost sheet={all} />
                {current !== null && whole.isSuccess && (
                  <Brackets
                    key={current}
                    roll={current}
                    frames={all.frames.length}
                    onMerge={(some) => setMerging({ frames: some })}
                  />
                )}
                {whole.isSuccess && all.frames.length === 0 ? (
                  <Empty over={over} onChoose={() => picker.current?.click()}>
                    This roll is empty. Drop captures on it
                  </Empty>
                ) : sheet.found.isPending ? (
                  <div className="grid grid-cols-4 gap-x-2.5 gap-y-1.5 bg-[#0b0b0b] px-4 py-2.5">
                    {Array.from({ length: 8 }, (_, i) => (
                      <div key={i} className="my-[19px] aspect-3/2 animate-pulse bg-well" />
                    ))}
                  </div>
                ) : shown.length === 0 ? (
                  <p className="bg-[#0b0b0b] py-16 text-center text-soft">
                    No frame of this roll is like that.
                  </p>
                ) : (
                  <FrameGrid
                    key={current}
                    shown={shown}
                    printed={look.show === "printed"}
                    choice={choice}
                    scroller={scroller}
                    reveal={reveal}
                    onColumns={(n) => {
                      columns.current = n;
                    }}
                    onOpen={openFrame}
                    onMark={onMark}
                  />
                )}
              </>
            )}
          </main>
          {all.frames.length > 0 && (
            <ChosenBar
              count={choice.all.length}
              one={choice.all.length === 1 ? frames[0] : undefined}
              common={common}
              rolls={rolls.data ?? []}
              current={current}
              facts={facts}
              onMark={markChosen}
              onMove={(to) => {
                sheet.move.mutate({ ids: choice.all, roll: to });
                choice.clear();
              }}
              onBin={binChosen}
              onMerge={merge}
              onApply={() => setApplying(true)}
              onDeliver={() => setDelivering(true)}
              onFacts={() => setFacts(!facts)}
            />
          )}
        </div>
        {facts && <FactsPanel count={choice.all.length} frames={frames} />}
      </div>
      {folder && (
        <FolderDialog
          roll={roll ?? null}
          onDone={async (begun) => {
            setFolder(false);
            await queries.invalidateQueries({ queryKey: ["rolls"] });
            queries.invalidateQueries({ queryKey: ["imports"] });
            go(`/roll/${begun.roll_id}`);
          }}
          onClose={() => setFolder(false)}
        />
      )}
      {binning && roll && (
        <Question
          title={`Take “${roll.name}” off the sheet?`}
          does="Put it in the bin"
          onDo={() => {
            setBinning(false);
            sheet.binRoll.mutate();
          }}
          onLeave={() => setBinning(false)}
        >
          Its {roll.frames} {roll.frames === 1 ? "frame goes" : "frames go"} to the bin with their
          prints, and can be put back from there.
        </Question>
      )}
      {applying && (
        <ApplyDialog
          frames={choice.all}
          onDone={sheet.refresh}
          onClose={() => setApplying(false)}
        />
      )}
      {delivering && (
        <DeliverDialog
          frames={choice.all}
          of={
            choice.all.length === 1 && chosen
              ? `${chosen.roll_name}, frame ${chosen.number}, ${chosen.title}`
              : `${choice.all.length} frames, of each the print that the sheet shows`
          }
          onClose={() => setDelivering(false)}
        />
      )}
      {merging && (
        <MergeDialog
          frames={merging.frames}
          again={merging.again}
          onDone={(id) => {
            setMerging(null);
            sheet.refresh();
            choice.choose(id, "one");
            setReveal({ id });
          }}
          onClose={() => setMerging(null)}
        />
      )}
    </div>
  );
}
