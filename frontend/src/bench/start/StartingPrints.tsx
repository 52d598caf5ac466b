import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api } from "../../api/client";
import { noteInput } from "../../api/live";
import { beforeOf, inForce } from "../../api/recipe";
import { Button } from "../../parts/Button";
import { sizeOf, useBench, useBenchStore } from "../../state/bench";
import type { Choice } from "../ring/axis";
import { type GivenCells, RingAround } from "../ring/RingAround";
import { Strength } from "./Strength";
import { type Start, useStarts } from "./useStarts";

const HEIGHT = 76;
const ALL = "All";
const RINGED = "Ringed";

/** Starting prints along the picture: pointing at one, or walking with the arrow keys, shows it
 * large; leaving restores. */
export function StartingPrints() {
  const store = useBenchStore();
  const { frame, mixture } = useBench(({ frame, recipe }) => ({ frame, mixture: recipe.mixture }));
  const size = useBench(sizeOf);
  // what they are made of stays while one after another is tried
  const [before] = useState(() => {
    const { recipe, schema } = store.getState();
    return inForce(beforeOf(recipe), schema);
  });
  const ratio = size.width / size.height;
  const width = Math.round(Math.min(Math.max(HEIGHT * ratio, 58), 124));
  const shown = { width, height: Math.round(Math.min(HEIGHT, width / ratio)) };
  const long = Math.ceil(Math.max(shown.width, shown.height) * window.devicePixelRatio);
  const starts = useStarts(frame.id, before, Math.max(long, 64));
  const [group, setGroup] = useState(ALL);
  const [words, setWords] = useState("");
  const [pointed, setPointed] = useState<string | null>(null);
  const list = useRef<HTMLDivElement>(null);

  const queries = useQueryClient();
  const ringed = useQuery({ queryKey: ["ringed"], queryFn: api.ringed }).data ?? [];
  const isRinged = (of: Start["of"]) => ringed.includes(nameIn(of));
  const found = starts.filter(
    ({ of }) => (group === RINGED ? isRinged(of) : true) && fits(of, group, words),
  );
  const trial = found.find(({ of }) => of.id === pointed)?.recipe ?? null;
  useEffect(() => {
    store.setState({ trial });
  }, [store, trial]);
  useEffect(() => () => store.setState({ trial: null }), [store]);
  const [tab, setTab] = useState<string | null>(null);
  const point = (id: string) => {
    noteInput();
    setPointed(id);
  };
  const inTab = found.some(({ of }) => of.id === tab) ? tab : found[0]?.of.id;
  useEffect(() => {
    if (starts.length) list.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus();
  }, [starts.length]);
  const lit = useBench((bench) => bench.lit);
  useEffect(() => {
    // one that was found by its name
    const id = lit?.startsWith("start.") ? lit.slice(6) : null;
    if (!id || !starts.length) return;
    setTab(id);
    setPointed(id);
    store.setState({ lit: null });
    // once the dialog that it was found in holds the focus no longer
    window.setTimeout(() => list.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus());
  }, [store, lit, starts.length]);

  const take = ({ of, recipe, says }: Start) => {
    if (!recipe) return;
    setPointed(null);
    store
      .getState()
      .put(recipe, "starting print", (says ? `${of.name}: ${says}` : of.name).slice(0, 120));
  };
  const ring = async (of: Start["of"]) => {
    try {
      await api.ring(nameIn(of), !isRinged(of));
      await queries.invalidateQueries({ queryKey: ["ringed"] });
    } catch (error) {
      store.getState().tell(error);
    }
  };
  const walk = (event: React.KeyboardEvent) => {
    const at = found.findIndex(({ of }) => of.id === inTab);
    const here = found[at];
    if (event.key === "o" && here && !event.repeat) {
      event.stopPropagation();
      ring(here.of);
      return;
    }
    const to = {
      ArrowLeft: at - 1,
      ArrowRight: at + 1,
      Home: 0,
      End: found.length - 1,
    }[event.key];
    const next = to === undefined ? undefined : found[to];
    if (to === undefined) return;
    event.preventDefault();
    if (!next) return;
    setTab(next.of.id);
    point(next.of.id);
    const options = list.current?.querySelectorAll<HTMLElement>("[role=option]");
    options?.[to]?.focus();
  };
  const groups = [ALL, RINGED, ...new Set(starts.map(({ of }) => of.group))];
  const told = starts.find(({ of }) => of.id === pointed) ?? null;
  const chosen = starts.find(({ of }) => of.name === mixture?.name) ?? null;
  const of = told ?? chosen;
  const done = starts.filter(({ address }) => address).length;
  // laid out over the window, as they are when that is asked for
  const [around, setAround] = useState<GivenCells | null>(null);
  const layOut = () => {
    store.setState({ dialog: "starts" }); // its keys are its own
    setAround({
      title: "Starting prints",
      about: "Each beside what is proposed for this frame.",
      cells: found.flatMap((start) => {
        if (!start.recipe) return [];
        const across: Choice = {
          text: start.of.name,
          now: start === chosen,
          station: "film",
          set: () => ({}),
        };
        const { about } = start.of;
        return [{ across, down: null, note: about, recipe: start.recipe, take: () => take(start) }];
      }),
    });
  };
  const putAway = () => {
    store.setState({ dialog: null });
    setAround(null);
  };
  return (
    <section
      aria-label="Starting prints"
      className="grid shrink-0 grid-cols-[1fr_360px] border-t border-black bg-panel"
    >
      <h1 className="sr-only">Starting prints</h1>
      {around && <RingAround given={around} onClose={putAway} />}
      <div
        ref={list}
        role="listbox"
        aria-label="Starting prints"
        aria-orientation="horizontal"
        tabIndex={-1}
        onKeyDown={walk}
        onPointerLeave={() => setPointed(null)}
        onBlur={(event) => {
          if (!list.current?.contains(event.relatedTarget as Node)) setPointed(null);
        }}
        className="flex min-w-0 gap-2 overflow-x-auto px-3.5 pt-2.5 pb-2"
      >
        {found.map((start) => {
          const { id, name, about } = start.of;
          const on = start === chosen;
          return (
            <button
              key={id}
              type="button"
              role="option"
              aria-selected={on}
              aria-label={[name, isRinged(start.of) && "ringed", on && "taken"]
                .filter(Boolean)
                .join(", ")}
              title={about}
              tabIndex={id === inTab ? 0 : -1}
              onFocus={() => setTab(id)}
              onPointerEnter={() => point(id)}
              onClick={() => take(start)}
              className="shrink-0 text-left outline-offset-2 focus-visible:outline-1 focus-visible:outline-[#bdbdbd]"
              style={{ width: Math.max(shown.width, 84) }}
            >
              <div
                className={`flex items-center justify-center bg-[#333] ${
                  pointed === id ? "outline-2 outline-amber" : ""
                }`}
                style={{ width: Math.max(shown.width, 84), height: HEIGHT }}
              >
                {start.address && (
                  <img
                    src={start.address}
                    alt=""
                    draggable={false}
                    style={{ width: shown.width, height: shown.height }}
                  />
                )}
              </div>
              <span
                className={`block truncate pt-1 text-small ${
                  on || pointed === id ? "text-amber" : "text-soft"
                }`}
              >
                {isRinged(start.of) && "◯ "}
                {name}
                {on && " ●"}
              </span>
            </button>
          );
        })}
        {starts.length > 0 && found.length === 0 && (
          <p className="self-center text-note text-soft">No starting print is called that.</p>
        )}
      </div>
      <div className="flex min-w-0 flex-col gap-1 border-l border-black px-3.5 py-2">
        <div className="flex items-center gap-1.5">
          <input
            type="search"
            aria-label="Find a starting print"
            placeholder="Find"
            value={words}
            onChange={(event) => setWords(event.target.value)}
            className="w-20 rounded-[2px] bg-well px-1.5 py-0.5 text-[12.5px]"
          />
          <select
            aria-label="Group"
            value={group}
            onChange={(event) => setGroup(event.target.value)}
            className="min-w-0 flex-1 rounded-[3px] bg-well px-1.5 py-[3px] text-[12.5px]"
          >
            {groups.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
          <Button
            disabled={done < starts.length || found.length === 0}
            title="All of these in a ring-around over the window"
            onClick={layOut}
          >
            All
          </Button>
          <Button hint="Esc" onClick={() => store.getState().leave()}>
            Done
          </Button>
        </div>
        {mixture ? (
          <Strength />
        ) : (
          <p className="flex h-[27px] items-center text-small text-faint">
            {done < starts.length
              ? `${done} of ${starts.length} prints`
              : "← → walk, Enter takes, O rings, Esc leaves"}
          </p>
        )}
        <p role="status" className="line-clamp-2 text-small text-soft">
          {of
            ? of.of.about
            : "Point at one to see it large; the print stays as it is until one is taken."}
        </p>
      </div>
    </section>
  );
}

/** What a starting print or a recipe is ringed by. */
const nameIn = ({ id, own }: Start["of"]) => (own === null ? id : String(own));

const fits = (of: Start["of"], group: string, words: string) =>
  (group === ALL || group === RINGED || of.group === group) &&
  words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => `${of.name} ${of.about} ${of.group}`.toLowerCase().includes(word));
