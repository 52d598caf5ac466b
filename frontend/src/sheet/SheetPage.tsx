import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useLocation } from "wouter";
import { api, type Frame, type Mark } from "../api/client";
import { Button } from "../parts/Button";
import { Header } from "../parts/Header";
import { useNotice } from "../parts/Notice";
import { Question } from "../parts/Question";
import { Segments } from "../parts/Segments";
import { Brackets } from "./Brackets";
import { ChosenBar } from "./ChosenBar";
import { FactsPanel } from "./FactsPanel";
import { FolderDialog } from "./FolderDialog";
import { FolderImports } from "./FolderImports";
import { DRAGGED, MARK_KEYS } from "./FrameCard";
import { FrameGrid } from "./FrameGrid";
import { ImportList } from "./ImportList";
import { droppedFiles, useImports } from "./imports";
import { Lost } from "./Lost";
import { MergeDialog } from "./MergeDialog";
import { Merges } from "./Merges";
import { matches, ORDERS, type Order, ordered } from "./order";
import { RollList, SideRow } from "./RollList";
import { RollTitle } from "./RollTitle";
import { useChoice } from "./useChoice";
import { useSheet } from "./useSheet";

const ACCEPTED = "DNG, camera raw, TIFF, PNG or JPEG";
const SHOWN_MARKS: { mark: Mark; text: string }[] = [
  { mark: "ring", text: "Ringed" },
  { mark: "dot", text: "Dotted" },
  { mark: "cross", text: "Crossed" },
];
const NO_FRAMES: Frame[] = [];

/** The first screen: rolls, and the frames of one of them as a contact sheet. */
export function SheetPage({ rollId }: { rollId: number | null }) {
  const [, go] = useLocation();
  const tell = useNotice();
  const queries = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const scroller = useRef<HTMLElement>(null);
  const columns = useRef(4);
  const [over, setOver] = useState(false);
  const [show, setShow] = useState<"colour" | "printed">("printed");
  const [only, setOnly] = useState<Mark | null>(null);
  const [search, setSearch] = useState("");
  const [order, setOrder] = useState<Order>("number");
  const [facts, setFacts] = useState(false);
  const [folder, setFolder] = useState(false);
  const [binning, setBinning] = useState(false);
  const [merging, setMerging] = useState<{ frames: Frame[]; again?: Frame } | null>(null);
  const [reveal, setReveal] = useState<{ id: number } | null>(null);

  const rolls = useQuery({ queryKey: ["rolls"], queryFn: api.rolls });
  const bin = useQuery({ queryKey: ["bin"], queryFn: api.binned });
  const current = rollId ?? rolls.data?.[0]?.id ?? null;
  const roll = rolls.data?.find((r) => r.id === current);
  const sheet = useSheet(current);
  const { frames, mark } = sheet;
  const all = frames.data ?? NO_FRAMES;
  const shown = useMemo(
    () =>
      ordered(
        all.filter((frame) => (!only || frame.mark === only) && matches(frame, search)),
        order,
      ),
    [all, only, search, order],
  );
  const choice = useChoice(shown);
  const chosen = choice.at;

  const imports = useImports(
    current,
    useCallback((id: number) => go(`/roll/${id}`), [go]),
  );
  const take = (files: File[]) => imports.take(files).catch(tell);
  const { mutate: openFrame } = sheet.open;
  const onMark = useCallback(
    (frame: Frame, to: Mark) => mark.mutate({ some: [frame], to }),
    [mark.mutate],
  );
  const markChosen = (to: Mark) => mark.mutate({ some: choice.all, to });
  const binChosen = () => {
    if (choice.all.length > 0) sheet.bin.mutate(choice.all.map((frame) => frame.id));
    choice.clear();
  };
  const merge = async () => {
    const [first] = choice.all;
    setMerging({ frames: choice.all, again: choice.all.length === 1 ? first : undefined });
  };

  useEffect(() => {
    const error = rolls.error ?? frames.error;
    if (error) tell(error);
  }, [rolls.error, frames.error, tell]);

  const onKey = (event: React.KeyboardEvent) => {
    const { target } = event;
    if (target instanceof HTMLInputElement || target instanceof HTMLSelectElement) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a") {
      event.preventDefault();
      choice.chooseAll();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const place = shown.findIndex((frame) => frame.id === chosen?.id);
    const moves: Record<string, number> = {
      ArrowLeft: -1,
      ArrowRight: 1,
      ArrowUp: -columns.current,
      ArrowDown: columns.current,
    };
    const to = MARK_KEYS[event.key];
    if (event.key in moves && shown.length) {
      event.preventDefault();
      const next = Math.min(Math.max(place + (moves[event.key] ?? 0), 0), shown.length - 1);
      const id = shown[next]?.id;
      if (id === undefined) return;
      choice.choose(id, event.shiftKey ? "range" : "one");
      setReveal({ id });
    } else if (to && choice.all.length > 0) {
      markChosen(choice.all.every((frame) => frame.mark === to) ? "none" : to);
    } else if (event.key === "Delete") {
      binChosen();
    } else if (event.key.toLowerCase() === "f") {
      setFacts(!facts);
    } else if (event.key === "Enter" && chosen && (target as HTMLElement).dataset.frame) {
      event.preventDefault();
      openFrame(chosen);
    }
  };
  const fits = choice.all.length >= 2 && choice.all.length <= 4;

  return (
    <div
      role="application"
      aria-label="Contact sheet"
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
              onClick={() => go(`/compare/${choice.all.map((f) => f.id).join(",")}`)}
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
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          take([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <div
        className={`grid min-h-0 flex-1 ${facts ? "grid-cols-[236px_1fr_264px]" : "grid-cols-[236px_1fr]"}`}
      >
        <aside className="flex min-h-0 flex-col overflow-y-auto border-r border-black bg-panel p-3.5">
          <div className="mb-2 flex items-baseline justify-between text-note">
            <h2 className="font-medium text-soft">Rolls</h2>
            <button
              type="button"
              className="text-faint hover:text-ink"
              onClick={() => sheet.newRoll.mutate(`Roll ${(rolls.data?.length ?? 0) + 1}`)}
            >
              New roll
            </button>
          </div>
          <RollList
            rolls={rolls.data ?? []}
            current={current}
            onOpen={(id) => go(`/roll/${id}`)}
            onFrames={(to, ids) => sheet.move.mutate({ ids, roll: to })}
          />
          {all.length > 0 && (
            <>
              <h2 className="mt-5 mb-2 text-note font-medium text-soft">Marks</h2>
              {SHOWN_MARKS.map((row) => (
                <SideRow
                  key={row.mark}
                  on={only === row.mark}
                  count={all.filter((frame) => frame.mark === row.mark).length}
                  onClick={() => setOnly(only === row.mark ? null : row.mark)}
                >
                  {row.text}
                </SideRow>
              ))}
            </>
          )}
          <div
            className={`mt-4 rounded-md border border-dashed px-3 py-3 text-center text-[12.5px] text-soft ${
              over ? "border-amber bg-raise" : "border-[#4f4f4f]"
            }`}
          >
            Drop captures or folders here,
            <br />
            <button
              type="button"
              className="underline hover:text-ink"
              onClick={() => picker.current?.click()}
            >
              choose files
            </button>{" "}
            or{" "}
            <button
              type="button"
              className="underline hover:text-ink"
              onClick={() => setFolder(true)}
            >
              take in a folder
            </button>
          </div>
          <ImportList items={imports.items} onClear={imports.clear} />
          <FolderImports />
          <Merges />
          {(bin.data?.length ?? 0) > 0 && (
            <div className="mt-auto pt-4">
              <SideRow on={false} count={bin.data?.length ?? 0} onClick={() => go("/bin")}>
                Bin
              </SideRow>
            </div>
          )}
        </aside>

        <div className="flex min-h-0 min-w-0 flex-col">
          <main ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto px-5 py-4">
            {rolls.data?.length === 0 ? (
              <Empty over={over} onChoose={() => picker.current?.click()}>
                Drop captures anywhere in this window
              </Empty>
            ) : (
              <>
                <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
                  <RollTitle
                    roll={roll}
                    shown={shown.length}
                    onRename={(name) => sheet.rename.mutate(name)}
                    onBin={() => (all.length > 0 ? setBinning(true) : sheet.binRoll.mutate())}
                  />
                  <input
                    type="search"
                    aria-label="Search in names, camera, lens, date"
                    placeholder="Search"
                    value={search}
                    onChange={(event) => setSearch(event.target.value)}
                    className="ml-auto w-36 self-center rounded-[3px] bg-well px-2 py-[3px] text-[12.5px]"
                  />
                  <select
                    aria-label="Order"
                    value={order}
                    onChange={(event) => setOrder(event.target.value as Order)}
                    className="self-center rounded-[3px] bg-well px-1.5 py-[3px] text-[12.5px]"
                  >
                    {ORDERS.map((o) => (
                      <option key={o.value} value={o.value}>
                        {o.text}
                      </option>
                    ))}
                  </select>
                  <div className="w-40 shrink-0 self-center">
                    <Segments
                      label="Show frames"
                      value={show}
                      onChange={setShow}
                      options={[
                        { value: "colour", text: "Colour" },
                        { value: "printed", text: "As printed" },
                      ]}
                    />
                  </div>
                </div>
                <Lost frames={all} />
                {current !== null && frames.isSuccess && (
                  <Brackets
                    key={current}
                    roll={current}
                    frames={all}
                    onMerge={(some) => setMerging({ frames: some })}
                  />
                )}
                {frames.isSuccess && all.length === 0 ? (
                  <Empty over={over} onChoose={() => picker.current?.click()}>
                    This roll is empty. Drop captures on it
                  </Empty>
                ) : frames.isPending ? (
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
                    frames={shown}
                    printed={show === "printed"}
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
          {all.length > 0 && (
            <ChosenBar
              frames={choice.all}
              rolls={rolls.data ?? []}
              current={current}
              facts={facts}
              onMark={markChosen}
              onMove={(to) => {
                sheet.move.mutate({ ids: choice.all.map((frame) => frame.id), roll: to });
                choice.clear();
              }}
              onBin={binChosen}
              onMerge={merge}
              onFacts={() => setFacts(!facts)}
            />
          )}
        </div>
        {facts && <FactsPanel frames={choice.all} />}
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

function Empty(props: { over: boolean; onChoose: () => void; children: ReactNode }) {
  return (
    <div
      className={`flex h-80 flex-col items-center justify-center gap-3 rounded-md border border-dashed ${
        props.over ? "border-amber bg-raise" : "border-[#4a4a4a]"
      }`}
    >
      <p className="text-head text-ink">{props.children}</p>
      <p className="text-soft">{ACCEPTED}. The files stay as they are; Silvrin keeps a copy.</p>
      <Button onClick={props.onChoose}>Choose files</Button>
    </div>
  );
}
