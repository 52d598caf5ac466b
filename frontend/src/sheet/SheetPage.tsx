import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import { useLocation } from "wouter";
import { api, type Frame, type Mark } from "../api/client";
import { Button } from "../parts/Button";
import { Header } from "../parts/Header";
import { useNotice } from "../parts/Notice";
import { Segments } from "../parts/Segments";
import { FrameCard } from "./FrameCard";
import { ImportList } from "./ImportList";
import { droppedFiles, useImports } from "./imports";
import { MergeDialog } from "./MergeDialog";
import { matches, ORDERS, type Order, ordered } from "./order";

const ACCEPTED = "DNG, camera raw, TIFF, PNG or JPEG";
const SHOWN_MARKS: { mark: Mark; text: string }[] = [
  { mark: "ring", text: "Ringed" },
  { mark: "dot", text: "Dotted" },
  { mark: "cross", text: "Crossed" },
];
const MARK_KEYS: Record<string, Mark> = { o: "ring", ".": "dot", x: "cross" };

/** The first screen: rolls, and the frames of one of them as a contact sheet. */
export function SheetPage({ rollId }: { rollId: number | null }) {
  const [, go] = useLocation();
  const tell = useNotice();
  const queries = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [show, setShow] = useState<"colour" | "printed">("printed");
  const [only, setOnly] = useState<Mark | null>(null);
  const [selected, setSelected] = useState<number | null>(null);

  const rolls = useQuery({ queryKey: ["rolls"], queryFn: api.rolls });
  const current = rollId ?? rolls.data?.[0]?.id ?? null;
  const roll = rolls.data?.find((r) => r.id === current);
  const frames = useQuery({
    queryKey: ["frames", current],
    queryFn: () => api.frames(current ?? 0),
    enabled: current !== null,
  });
  const all = frames.data ?? [];
  const [search, setSearch] = useState("");
  const [order, setOrder] = useState<Order>("number");
  const shown = ordered(
    all.filter((frame) => (!only || frame.mark === only) && matches(frame, search)),
    order,
  );
  const brackets = useQuery({
    queryKey: ["brackets", current, all.length],
    queryFn: () => api.brackets(current ?? 0),
    enabled: current !== null && frames.isSuccess,
  });
  const [left, setLeft] = useState<number[]>([]);
  const merged = all.filter((frame) => frame.kind === "merged").map((frame) => frame.title);
  const bracket = brackets.data
    ?.map((ids) => ids.flatMap((id) => all.find((frame) => frame.id === id) ?? []))
    .find(
      (group) =>
        group.length > 1 &&
        !left.includes(group[0]?.id ?? 0) &&
        !group.some((frame) => merged.includes(`${frame.title}, merged`)),
    );
  const [beside, setBeside] = useState<number[]>([]);
  const compared = shown.filter((f) => f.id === selected || beside.includes(f.id));
  const [merging, setMerging] = useState<Frame[] | null>(null);
  const chosen = all.find((frame) => frame.id === selected) ?? null;

  const imports = useImports(
    current,
    useCallback((id: number) => go(`/roll/${id}`), [go]),
  );
  const take = (files: File[]) => imports.take(files).catch(tell);

  const mark = useMutation({
    mutationFn: ({ frame, to }: { frame: Frame; to: Mark }) => api.mark(frame.id, to),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: ["frames", current] });
      queries.invalidateQueries({ queryKey: ["rolls"] });
    },
    onError: tell,
  });
  const newRoll = useMutation({
    mutationFn: () => api.makeRoll(`Roll ${(rolls.data?.length ?? 0) + 1}`),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ["rolls"] });
      go(`/roll/${made.id}`);
    },
    onError: tell,
  });
  const open = useMutation({
    mutationFn: async (frame: Frame) =>
      frame.prints.at(-1)?.id ?? (await api.makePrint(frame.id, "First print")).id,
    onSuccess: (id) => {
      queries.invalidateQueries({ queryKey: ["frames", current] });
      go(`/print/${id}`);
    },
    onError: tell,
  });

  useEffect(() => {
    const error = rolls.error ?? frames.error;
    if (error) tell(error);
  }, [rolls.error, frames.error, tell]);

  const onKey = (event: React.KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement)
      return;
    const place = shown.findIndex((frame) => frame.id === selected);
    const moves: Record<string, number> = {
      ArrowLeft: -1,
      ArrowRight: 1,
      ArrowUp: -4,
      ArrowDown: 4,
    };
    const to = MARK_KEYS[event.key];
    if (event.key in moves && shown.length) {
      event.preventDefault();
      const next = Math.min(Math.max(place + (moves[event.key] ?? 0), 0), shown.length - 1);
      const id = shown[next]?.id ?? null;
      setSelected(id);
      document.querySelector<HTMLElement>(`[data-frame="${id}"]`)?.focus();
    } else if (to && chosen) {
      mark.mutate({ frame: chosen, to: chosen.mark === to ? "none" : to });
    } else if (event.key === "Enter" && chosen && (event.target as HTMLElement).dataset.frame) {
      event.preventDefault();
      open.mutate(chosen);
    }
  };

  return (
    <div
      role="application"
      aria-label="Contact sheet"
      className="flex h-full flex-col"
      onKeyDown={onKey}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => event.relatedTarget === null && setOver(false)}
      onDrop={async (event) => {
        event.preventDefault();
        setOver(false);
        take(await droppedFiles(event.dataTransfer));
      }}
    >
      <Header
        actions={
          <>
            <Button
              disabled={compared.length < 2 || compared.length > 4}
              title="Two to four frames side by side: choose them with Ctrl or Shift held"
              onClick={() => go(`/compare/${compared.map((f) => f.id).join(",")}`)}
            >
              Compare{compared.length > 1 ? ` ${compared.length}` : ""}
            </Button>
            <Button
              go
              disabled={!chosen || open.isPending}
              onClick={() => chosen && open.mutate(chosen)}
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
      <div className="grid min-h-0 flex-1 grid-cols-[236px_1fr]">
        <aside className="flex min-h-0 flex-col border-r border-black bg-panel p-3.5">
          <div className="mb-2 flex items-baseline justify-between text-note">
            <h2 className="font-medium text-soft">Rolls</h2>
            <button
              type="button"
              className="text-faint hover:text-ink"
              onClick={() => newRoll.mutate()}
            >
              New roll
            </button>
          </div>
          <nav aria-label="Rolls" className="max-h-[40%] shrink-0 overflow-y-auto">
            {rolls.data?.map((r) => (
              <SideRow
                key={r.id}
                on={r.id === current}
                count={r.frames}
                onClick={() => go(`/roll/${r.id}`)}
              >
                {r.name}
              </SideRow>
            ))}
            {rolls.data?.length === 0 && (
              <p className="px-2 text-note text-faint">No roll yet. Dropped captures make one.</p>
            )}
          </nav>
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
          <button
            type="button"
            onClick={() => picker.current?.click()}
            className={`mt-4 rounded-md border border-dashed px-3 py-4 text-center text-[12.5px] text-soft hover:border-soft ${
              over ? "border-amber bg-raise" : "border-[#4f4f4f]"
            }`}
          >
            Drop captures or folders here
            <br />
            or <span className="underline">choose files</span>
          </button>
          <ImportList items={imports.items} onClear={imports.clear} />
        </aside>

        <main className="min-h-0 overflow-y-auto px-5 py-4">
          {rolls.data?.length === 0 ? (
            <Empty over={over} onChoose={() => picker.current?.click()}>
              Drop captures anywhere in this window
            </Empty>
          ) : (
            <>
              <div className="mb-3 flex items-baseline gap-4">
                <h1 className="text-[18px] font-semibold">{roll?.name ?? " "}</h1>
                {roll && (
                  <span className="text-soft">
                    {roll.frames} {roll.frames === 1 ? "frame" : "frames"}
                    {roll.ringed > 0 && `, ${roll.ringed} ringed`}
                  </span>
                )}
                <input
                  type="search"
                  aria-label="Search in names, camera, lens, date"
                  placeholder="Search"
                  value={search}
                  onChange={(event) => setSearch(event.target.value)}
                  className="ml-auto w-40 self-center rounded-[3px] bg-well px-2 py-[3px] text-[12.5px]"
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
                <div className="w-44 self-center">
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
              {bracket && (
                <p
                  role="status"
                  className="mb-3 flex items-center gap-3 rounded bg-raise px-3 py-2 text-note"
                >
                  Frames {bracket[0]?.number} to {bracket.at(-1)?.number} look like a bracket.
                  <Button onClick={() => setMerging(bracket)}>Merge them…</Button>
                  <button
                    type="button"
                    className="text-faint hover:text-ink"
                    onClick={() => setLeft([...left, bracket[0]?.id ?? 0])}
                  >
                    Leave them
                  </button>
                </p>
              )}
              {frames.isSuccess && all.length === 0 ? (
                <Empty over={over} onChoose={() => picker.current?.click()}>
                  This roll is empty. Drop captures on it
                </Empty>
              ) : (
                <ul className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-2.5 gap-y-1.5 bg-[#0b0b0b] px-4 pt-2.5 pb-2">
                  {frames.isPending &&
                    Array.from({ length: 8 }, (_, i) => (
                      <li key={i} className="my-[19px] aspect-3/2 animate-pulse bg-well" />
                    ))}
                  {shown.map((frame) => (
                    <FrameCard
                      key={frame.id}
                      frame={frame}
                      printed={show === "printed" && frame.prints.length > 0}
                      selected={frame.id === selected}
                      beside={beside.includes(frame.id)}
                      onSelect={(more) => {
                        if (!more) {
                          setBeside([]);
                          setSelected(frame.id);
                        } else if (selected === null) setSelected(frame.id);
                        else if (frame.id !== selected) {
                          setBeside((now) =>
                            now.includes(frame.id)
                              ? now.filter((id) => id !== frame.id)
                              : [...now, frame.id],
                          );
                        }
                      }}
                      onOpen={() => open.mutate(frame)}
                      onMark={(to) => mark.mutate({ frame, to })}
                    />
                  ))}
                  {frames.isSuccess && shown.length === 0 && (
                    <li className="col-span-full py-10 text-center text-soft">
                      No frame of this roll is like that.
                    </li>
                  )}
                </ul>
              )}
            </>
          )}
        </main>
      </div>
      {merging && (
        <MergeDialog
          frames={merging}
          onDone={async (id) => {
            setMerging(null);
            await queries.invalidateQueries({ queryKey: ["frames", current] });
            queries.invalidateQueries({ queryKey: ["rolls"] });
            setSelected(id);
          }}
          onClose={() => setMerging(null)}
        />
      )}
    </div>
  );
}

interface SideRowProps {
  on: boolean;
  count: number;
  onClick: () => void;
  children: ReactNode;
}

function SideRow({ on, count, onClick, children }: SideRowProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`flex w-full justify-between gap-2 rounded px-2.5 py-[7px] text-left ${
        on ? "bg-raise text-ink" : "text-soft hover:text-ink"
      }`}
    >
      <span className="truncate">{children}</span>
      <span className="text-note text-faint">{count}</span>
    </button>
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
