import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useLocation, useSearch } from "wouter";
import {
  api,
  type ItemFile,
  type ItemKind,
  Problem,
  type Shelf,
  type ShelfFilter,
  type ShelfLight,
  type ShelfPaper,
  type ShelfStock,
  type ShelfToner,
  type ShelfToning,
} from "../api/client";
import { Button } from "../parts/Button";
import { Glass } from "../parts/Glass";
import { Header } from "../parts/Header";
import { useNotice } from "../parts/Notice";
import { Question } from "../parts/Question";
import { BESIDE, CHOSEN } from "./curves";
import { Figures } from "./Figures";
import { ItemEditor } from "./ItemEditor";
import { Measure } from "./Measure";
import { PaperPlots } from "./PaperPlots";
import { FilterPlots, LightPlots, StockPlots } from "./Plots";
import { ShelfTabs } from "./ShelfTabs";
import { Scale, TonerPlots } from "./TonerPlots";

export type Thing = ShelfStock | ShelfFilter | ShelfLight | ShelfPaper | ShelfToner | ShelfToning;
/** Own toners stand with the toning sets. */
type Tab = Exclude<ItemKind, "toner">;
const tabOf = (kind: ItemKind): Tab => (kind === "toner" ? "toning" : kind);
const kindOf = (tab: Tab, thing: Thing): ItemKind => ("takes" in thing ? "toner" : tab);
const FIRST: Record<Tab, string> = {
  stock: "larch-100",
  filter: "15",
  light: "tungsten",
  paper: "glossy-fibre-neutral",
  toning: "short-selenium",
};
const isTab = (text: string): text is Tab => Object.hasOwn(FIRST, text);

const LISTS = {
  stock: "stocks",
  filter: "filters",
  light: "lights",
  paper: "papers",
  toning: "tonings",
} as const;
export const things = (shelf: Shelf, tab: Tab): Thing[] =>
  tab === "toning" ? [...shelf.tonings, ...shelf.toners] : shelf[LISTS[tab]];
const strip = (thing: ShelfStock | ShelfFilter | ShelfLight) =>
  "sensitivity" in thing
    ? thing.sensitivity
    : "transmittance" in thing
      ? thing.transmittance
      : thing.power;
const says = (thing: Thing) =>
  "scale" in thing
    ? ""
    : "tint" in thing
      ? thing.surface
      : "colour" in thing
        ? thing.colour
        : thing.kind;

/** What is on the shelf: curves and figures, overlaid to compare, and one's own. */
export function ShelfPage() {
  const tell = useNotice();
  const queries = useQueryClient();
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: api.shelf });
  const [, go] = useLocation();
  const named = new URLSearchParams(useSearch()).get("kind");
  const kind = named && isTab(named) ? named : "stock";
  const setKind = (next: Tab) => go(`/shelf?kind=${next}`);
  const [looked, setLooked] = useState(FIRST);
  const [beside, setBeside] = useState<Record<Tab, string[]>>({
    stock: [],
    filter: [],
    light: [],
    paper: [],
    toning: [],
  });
  const [editing, setEditing] = useState<{ file: ItemFile; own: string | null } | null>(null);
  const [measuring, setMeasuring] = useState(false);
  const picker = useRef<HTMLInputElement>(null);

  useEffect(() => {
    if (shelf.error) tell(shelf.error);
  }, [shelf.error, tell]);

  const refresh = async (id?: string) => {
    await queries.invalidateQueries({ queryKey: ["shelf"] });
    // prints look another way on another film
    queries.invalidateQueries({ queryKey: ["frames"] });
    if (id) setLooked((now) => ({ ...now, [kind]: id }));
  };
  const put = useMutation({
    mutationFn: (file: ItemFile) => api.addItem(file),
    onSuccess: async (file) => {
      setKind(tabOf(file.kind));
      await queries.invalidateQueries({ queryKey: ["shelf"] });
      setLooked((now) => ({ ...now, [tabOf(file.kind)]: String(file.item.id) }));
    },
    onError: tell,
  });
  const [removing, setRemoving] = useState(false);
  /** What an earlier state of a print needs, while it is asked whether it goes all the same. */
  const [needed, setNeeded] = useState<{ id: string; why: string } | null>(null);
  const remove = useMutation({
    mutationFn: (id: string) => api.removeItem(id, needed?.id === id),
    onSuccess: async () => {
      setNeeded(null);
      setRemoving(false);
      setLooked((now) => ({ ...now, [kind]: FIRST[kind] }));
      await refresh();
    },
    onError: (error, id) => {
      const asks = error instanceof Problem && error.status === 409;
      if (asks) setNeeded({ id, why: error.message });
      else {
        setRemoving(false);
        tell(error);
      }
    },
  });
  const readFile = async (file: File) => {
    let content: unknown;
    try {
      content = JSON.parse(await file.text());
    } catch {
      tell(new Error(`${file.name} is not JSON; a shelf file of Silvrin is wanted.`));
      return;
    }
    put.mutate(content as ItemFile);
  };

  if (!shelf.data) {
    return <p className="grid h-full place-items-center text-soft">Looking at the shelf…</p>;
  }
  const all = things(shelf.data, kind);
  const one = all.find((t) => t.id === looked[kind]) ?? all[0];
  if (!one) return null;
  const overlaid = all.filter((t) => t !== one && beside[kind].includes(t.id));
  const colours = new Map<string, string>([
    [one.id, CHOSEN],
    ...overlaid.map((t, i): [string, string] => [t.id, BESIDE[i % BESIDE.length] ?? "#dcdcdc"]),
  ]);
  const lines = [...overlaid, one];
  const toggle = (id: string) =>
    setBeside((now) => ({
      ...now,
      [kind]: now[kind].includes(id) ? now[kind].filter((b) => b !== id) : [...now[kind], id],
    }));
  const copy = async () => {
    try {
      const file = await api.item(kindOf(kind, one), one.id);
      const item = { ...file.item, name: `${one.name}, own`, source: `After ${one.name}.` };
      setEditing({ file: { ...file, item }, own: null });
    } catch (error) {
      tell(error);
    }
  };
  const edit = async () => {
    try {
      setEditing({ file: await api.item(kindOf(kind, one), one.id), own: one.id });
    } catch (error) {
      tell(error);
    }
  };

  return (
    <div className="flex h-full flex-col">
      <Header
        actions={
          <>
            <Button
              title="A stock, filter, light, paper or toning set as a file of open JSON"
              onClick={() => picker.current?.click()}
            >
              Read a file…
            </Button>
            <Button go onClick={() => setMeasuring(true)}>
              Measure your own…
            </Button>
            <input
              ref={picker}
              type="file"
              accept=".json,application/json"
              aria-label="Shelf file"
              className="hidden"
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (file) readFile(file);
                event.target.value = "";
              }}
            />
          </>
        }
      >
        <Link href="/" className="hover:text-ink">
          Contact sheet
        </Link>
      </Header>
      <div className="grid min-h-0 flex-1 grid-cols-[288px_1fr_296px]">
        <aside className="flex min-h-0 flex-col border-r border-black bg-panel px-3 py-3.5">
          <h1 className="mb-2 text-head font-semibold">Shelf</h1>
          <ShelfTabs tab={kind} />
          <p className="mt-2 mb-1 text-note text-soft">
            Press one to look at it; the square lays its curve over.
          </p>
          <ul
            aria-label="On the shelf"
            className="flex min-h-0 flex-1 flex-col gap-px overflow-y-auto"
          >
            {all.map((t) => (
              <li key={t.id} className="grid shrink-0 grid-cols-[1fr_20px] items-center gap-1.5">
                <button
                  type="button"
                  aria-pressed={t === one}
                  onClick={() => setLooked((now) => ({ ...now, [kind]: t.id }))}
                  className={`grid grid-cols-[1fr_50px] items-center gap-1.5 rounded-[3px] border px-1.5 py-[3px] text-left ${
                    t === one ? "border-amber bg-well" : "border-transparent hover:bg-raise"
                  }`}
                >
                  <span className="min-w-0 truncate">
                    <span className="mr-1.5 text-[12.5px] font-medium">{t.name}</span>
                    <span className="text-small text-soft">{t.own ? "own" : says(t)}</span>
                  </span>
                  {"tint" in t ? (
                    <span className="h-4 rounded-[2px]" style={{ background: t.tint }} />
                  ) : "scale" in t ? (
                    <Scale colours={t.scale} className="mt-1 h-4" />
                  ) : (
                    <Glass transmittance={strip(t)} />
                  )}
                </button>
                <button
                  type="button"
                  role="checkbox"
                  aria-checked={t === one || beside[kind].includes(t.id)}
                  aria-label={`Lay ${t.name} over`}
                  title="Lay its curve over"
                  disabled={t === one}
                  onClick={() => toggle(t.id)}
                  className="size-3.5 rounded-[2px] border border-[#6b6b6b]"
                  style={{ background: colours.get(t.id) }}
                />
              </li>
            ))}
          </ul>
        </aside>
        <main
          aria-label="Curves"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, also by keys
          tabIndex={0}
          className="min-h-0 overflow-y-auto px-5 py-4"
        >
          {kind === "stock" && <StockPlots lines={lines as ShelfStock[]} colours={colours} />}
          {kind === "filter" && (
            <FilterPlots
              lines={lines as ShelfFilter[]}
              colours={colours}
              stocks={shelf.data.stocks}
              lights={shelf.data.lights}
            />
          )}
          {kind === "paper" && <PaperPlots lines={lines as ShelfPaper[]} colours={colours} />}
          {kind === "toning" && (
            <TonerPlots lines={lines as (ShelfToner | ShelfToning)[]} colours={colours} />
          )}
          {kind === "light" && <LightPlots lines={lines as ShelfLight[]} colours={colours} />}
        </main>
        <aside
          aria-label="Figures"
          className="flex min-h-0 flex-col overflow-y-auto border-l border-black bg-panel px-4 py-3.5"
        >
          <Figures thing={one} />
          <div className="mt-auto flex flex-wrap gap-1.5 pt-4">
            {one.id !== "any-hue" && one.id !== "none" && <Button onClick={copy}>Copy…</Button>}
            {one.own && <Button onClick={edit}>Change…</Button>}
            {one.id !== "any-hue" && (
              <a
                href={`/api/shelf/${kindOf(kind, one)}/${one.id}/file`}
                download
                className="rounded bg-raise px-2.5 py-1 text-[12.5px] hover:bg-lift"
              >
                Save as file
              </a>
            )}
            {one.own && (
              <Button className="text-loss" onClick={() => setRemoving(true)}>
                Remove
              </Button>
            )}
          </div>
        </aside>
      </div>
      {editing && (
        <ItemEditor
          file={editing.file}
          own={editing.own}
          onDone={async (file) => {
            setEditing(null);
            await refresh(String(file.item.id));
          }}
          onClose={() => setEditing(null)}
        />
      )}
      {measuring && (
        <Measure
          shelf={shelf.data}
          onDone={async (file) => {
            setMeasuring(false);
            setKind(tabOf(file.kind));
            await queries.invalidateQueries({ queryKey: ["shelf"] });
            setLooked((now) => ({ ...now, [tabOf(file.kind)]: String(file.item.id) }));
          }}
          onClose={() => setMeasuring(false)}
        />
      )}
      {removing && one && (
        <Question
          title={`Take ${one.name} off the shelf?`}
          does={needed ? "Take it off all the same" : "Take it off"}
          busy={remove.isPending}
          onDo={() => remove.mutate(one.id)}
          onLeave={() => {
            setRemoving(false);
            setNeeded(null);
          }}
        >
          {needed ? needed.why : "It cannot be brought back; save it as a file first to keep it."}
        </Question>
      )}
    </div>
  );
}
