import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { type Recipe, type SmallPrint, smallPrint } from "../../api/client";
import { Button } from "../../parts/Button";
import { useNotice } from "../../parts/Notice";
import { useBench, useBenchStore } from "../../state/bench";
import { STATIONS } from "../stations";
import { axes } from "./axes";
import { type Axis, type Choice, shown, taken } from "./axis";

interface Cell {
  key: string;
  across: Choice;
  down: Choice | null;
  recipe: Recipe;
  /** What is said of it beside its name. */
  note?: string;
  /** Of one that is a recipe of its own: what taking it does. */
  take?: () => void;
}

/** Prints that are laid out as they come, with what they show. */
export interface GivenCells {
  title: string;
  about: string;
  cells: (Omit<Cell, "key" | "recipe"> & { recipe?: Recipe })[];
  /** What was left out, since there is nothing to see. */
  blind?: string[];
  /** What else may be done about it. */
  action?: { text: string; title: string; does: () => void };
}

const AT_ONCE = 3;
const GAP = 10;
const CAPTION = 20;
const WORTH_TURNING = 1.1; // times larger, for what goes across to go down

/** Small prints of the user's own picture, each differing in one or two things; or given ones. */
export function RingAround({ onClose, given }: { onClose: () => void; given?: GivenCells }) {
  const store = useBenchStore();
  const { frame, recipe, schema, shelf, facts, station } = useBench(
    ({ frame, recipe, schema, shelf, facts, station }) => ({
      frame,
      recipe,
      schema,
      shelf,
      facts,
      station,
    }),
  );
  const begin = STATIONS.find((s) => s.name === station)?.ring ?? ["film.placement", null];
  // what it varies is fixed while it is open
  const [all] = useState(() => axes(recipe, schema, shelf, facts, frame.kind));
  // a setting that does nothing now is not among them
  const offered = (id: string | null) => (id && axisOf(all, id) ? id : null);
  const [across, setAcross] = useState(offered(begin[0]) ?? "film.placement");
  const [down, setDown] = useState<string | null>(offered(begin[1]));
  const section = useRef<HTMLElement>(null);
  const grid = useRef<HTMLDivElement>(null);
  const [area, setArea] = useState<{ width: number; height: number } | null>(null);
  const [chosen, setChosen] = useState(0);

  const ratio = frame.width / frame.height;
  const turns = useCallback(
    (across: number, down: number) => {
      if (!area) return false;
      const cells = across * down;
      const width = (columns: number) => fitted(area, ratio, cells, columns, CAPTION).width;
      return width(down) > WORTH_TURNING * width(across);
    },
    [area, ratio],
  );
  const columns = axisOf(all, across);
  const rows = down ? axisOf(all, down) : null;
  const { cells, turned, wide } = useMemo(() => {
    if (given) {
      const made: Cell[] = given.cells.map((cell) => ({ ...laid(recipe, cell), ...cell }));
      return { cells: made, turned: false, wide: 0 };
    }
    const top = columns ? shown(columns, rows !== null) : [];
    const side = rows ? shown(rows, true) : [null];
    const cell = (a: Choice, d: Choice | null): Cell => ({
      across: a,
      down: d,
      ...laid(recipe, { across: a, down: d }),
    });
    // the other way round where prints come out larger so
    const turned = rows !== null && turns(top.length, side.length);
    const made = turned
      ? top.flatMap((a) => side.map((d) => cell(a, d)))
      : side.flatMap((d) => top.map((a) => cell(a, d)));
    return { cells: made, turned, wide: rows ? (turned ? side.length : top.length) : 0 };
  }, [columns, rows, recipe, given, turns]);

  useEffect(() => {
    const now = cells.findIndex(isNow);
    setChosen(Math.max(now, 0));
  }, [cells]);

  useEffect(() => {
    const element = grid.current;
    if (!element) return;
    const measure = () => setArea({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const caption = given ? 2 * CAPTION - 2 : CAPTION;
  const fit = area && fitted(area, ratio, cells.length, wide, caption);
  const pictures = useSmallPrints(frame.id, cells, fit?.long ?? null, chosen);

  const take = (cell: Cell | undefined) => {
    if (!cell) return;
    if (cell.take) {
      onClose();
      cell.take();
      return;
    }
    const choices = [cell.across, cell.down].filter((c) => c !== null);
    onClose();
    const label = `Ring-around: ${choices.map((c) => c.text).join(", ")}`;
    choices.forEach((c, i) => {
      const { recipe, change } = store.getState();
      change(c.station, c.set(recipe), i === choices.length - 1 ? label : undefined);
    });
  };
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLSelectElement && event.key !== "Escape") return;
      const a = fit?.columns ?? 1;
      const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -a, ArrowDown: a }[event.key];
      if (step) {
        event.preventDefault();
        setChosen((now) => (now + step >= 0 && now + step < cells.length ? now + step : now));
      }
      const { target } = event;
      // a button of its own that is no print; what lies below it is covered
      const own = target instanceof HTMLButtonElement && section.current?.contains(target);
      const print = own && target.role === "option";
      // the print that is chosen, whichever was clicked before
      if (event.key === "Enter" && (print || !own)) {
        event.preventDefault();
        take(cells[chosen]);
      }
      if (event.key === "Escape") onClose();
    };
    window.addEventListener("keydown", down);
    return () => window.removeEventListener("keydown", down);
  });

  useEffect(() => {
    const all = grid.current?.querySelectorAll<HTMLElement>("[role=option]");
    // the focus walks with the choice where it is among the prints
    if (grid.current?.contains(document.activeElement)) all?.[chosen]?.focus();
  }, [chosen]);

  const done = cells.filter((c) => pictures[c.key]).length;
  const alike = useMemo(() => likenesses(cells, pictures), [cells, pictures]);
  const select = (
    value: string | null,
    set: (id: string) => void,
    label: string,
    none: boolean,
  ) => (
    <label className="flex items-center gap-2 text-[12.5px] text-soft">
      {label}
      <select
        value={value ?? ""}
        onChange={(event) => set(event.target.value)}
        className="w-44 rounded-[3px] border border-transparent bg-well px-1.5 py-[3px] text-ink hover:border-lift"
      >
        {none && <option value="">nothing else</option>}
        {STATIONS.map(({ name, title }) => (
          <optgroup key={name} label={title}>
            {all
              .filter((axis) => axis.station === name)
              .map((axis) => (
                <option key={axis.id} value={axis.id}>
                  {axis.title}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    </label>
  );
  return (
    <section
      ref={section}
      aria-label="Ring-around"
      className="fixed inset-0 z-40 flex flex-col bg-surround"
    >
      <header className="flex h-11 shrink-0 items-center gap-4 border-b border-black bg-panel px-3.5">
        <h1 className="shrink-0 text-head font-semibold">{given?.title ?? "Ring-around"}</h1>
        {given ? (
          <p className="min-w-0 truncate text-note text-soft" title={given.about}>
            {given.about}
          </p>
        ) : (
          <>
            {select(across, setAcross, turned ? "Down" : "Across", false)}
            {select(down, (id) => setDown(id || null), turned ? "across" : "down", true)}
          </>
        )}
        <p role="status" className="shrink-0 text-note text-soft">
          {done < cells.length
            ? `${done} of ${cells.length} prints`
            : "Arrow keys walk it, Enter takes one, Esc leaves."}
        </p>
        <div className="ml-auto flex shrink-0 gap-1.5">
          {given?.action && (
            <Button title={given.action.title} onClick={given.action.does}>
              {given.action.text}
            </Button>
          )}
          <Button onClick={onClose} hint="Esc">
            Leave
          </Button>
          <Button go onClick={() => take(cells[chosen])}>
            Take
          </Button>
        </div>
      </header>
      {given?.blind && given.blind.length > 0 && (
        <p className="truncate px-3.5 pt-1.5 text-small text-soft" title={given.blind.join("; ")}>
          Blind and left out: {given.blind.join("; ")}
        </p>
      )}
      <div ref={grid} className="grid min-h-0 flex-1 place-content-center overflow-auto p-3">
        {fit && (
          <div
            role="listbox"
            aria-label="Prints"
            className="grid"
            style={{ gridTemplateColumns: `repeat(${fit.columns}, ${fit.width}px)`, gap: GAP }}
          >
            {cells.map((cell, i) => (
              <button
                key={cell.key}
                type="button"
                role="option"
                aria-selected={i === chosen}
                tabIndex={i === chosen ? 0 : -1}
                aria-label={[
                  pictures[cell.key]?.blind && "blind",
                  alike[cell.key] && `the same as ${alike[cell.key]}`,
                  named(cell, ", "),
                  cell.note,
                  isNow(cell) && "as it is",
                ]
                  .filter(Boolean)
                  .join(", ")}
                onClick={() => (i === chosen ? take(cell) : setChosen(i))}
                className={`text-left outline-offset-2 ${i === chosen ? "outline-2 outline-amber" : ""}`}
              >
                <div
                  className="flex items-center justify-center bg-[#333] text-small text-soft"
                  style={{ width: fit.width, height: fit.height }}
                >
                  {pictures[cell.key]?.blind ? (
                    <span className="px-2 text-center">
                      Blind: it sees nothing behind that glass
                    </span>
                  ) : alike[cell.key] ? (
                    <span className="truncate px-1">the same as {alike[cell.key]}</span>
                  ) : (
                    pictures[cell.key] && (
                      <img
                        src={pictures[cell.key]?.address}
                        alt=""
                        className="size-full"
                        draggable={false}
                      />
                    )
                  )}
                </div>
                <div
                  className={`flex flex-wrap items-center justify-between gap-x-2 overflow-hidden px-0.5 text-small ${
                    i === chosen ? "text-amber" : "text-ink"
                  }`}
                  style={{ height: caption }}
                >
                  <span className="truncate">{named(cell, " · ")}</span>{" "}
                  {isNow(cell) && <span className="text-soft">as it is</span>}
                  {cell.note && <span className="w-full truncate text-soft">{cell.note}</span>}
                </div>
              </button>
            ))}
          </div>
        )}
      </div>
    </section>
  );
}

const laid = (recipe: Recipe, { across, down }: Pick<Cell, "across" | "down">) => ({
  key: `${across.text}|${down?.text ?? ""}`,
  recipe: taken(recipe, [across, down]),
});
const isNow = (cell: Cell) => cell.across.now && (cell.down?.now ?? true);
const named = (cell: Cell, between: string) =>
  [cell.across.text, cell.down?.text].filter(Boolean).join(between);

/** Of the prints that look as another one does, which that is: the present one, or the first. */
function likenesses(cells: Cell[], pictures: Record<string, SmallPrint>) {
  const first = new Map<string, Cell>();
  for (const cell of [...cells.filter(isNow), ...cells]) {
    const picture = pictures[cell.key];
    const mark = picture?.blind ? undefined : picture?.mark;
    if (mark && !first.has(mark)) first.set(mark, cell);
  }
  const found: Record<string, string> = {};
  for (const cell of cells) {
    const picture = pictures[cell.key];
    const as = picture?.blind ? undefined : first.get(picture?.mark ?? "");
    if (as && as !== cell) found[cell.key] = named(as, " · ");
  }
  return found;
}

const axisOf = (all: Axis[], id: string) => all.find((axis) => axis.id === id);

/** The largest prints of which all fit, in so many columns (found when `wide` is 0). */
function fitted(
  area: { width: number; height: number },
  ratio: number,
  count: number,
  wide: number,
  caption: number,
) {
  const room = { width: area.width - 24, height: area.height - 24 };
  const sized = (columns: number) => {
    const rows = Math.ceil(count / columns);
    const byWidth = (room.width - GAP * (columns - 1)) / columns;
    const byHeight = ((room.height - GAP * (rows - 1)) / rows - caption) * ratio;
    const width = Math.max(72, Math.floor(Math.min(byWidth, byHeight)));
    return { columns, width, height: Math.round(width / ratio), long: 0 };
  };
  const tries = wide ? [sized(wide)] : Array.from({ length: count }, (_, i) => sized(i + 1));
  const best = tries.reduce((a, b) => (b.width > a.width ? b : a));
  const pixels = Math.max(best.width, best.height) * window.devicePixelRatio;
  return { ...best, long: Math.min(Math.max(Math.ceil(pixels), 64), 1200) };
}

/** Prints as they come, those about the chosen one first; the last ones stay till new ones are there. */
function useSmallPrints(frame: number, cells: Cell[], long: number | null, chosen: number) {
  const tell = useNotice();
  const [pictures, setPictures] = useState<Record<string, SmallPrint>>({});
  const order = useRef(chosen);
  order.current = chosen;
  useEffect(() => {
    if (!long) return;
    const stop = new AbortController();
    const made: string[] = [];
    setPictures({});
    const left = [...cells.keys()].sort(
      (a, b) => Math.abs(a - order.current) - Math.abs(b - order.current),
    );
    const work = async () => {
      for (let next = left.shift(); next !== undefined; next = left.shift()) {
        const cell = cells[next];
        if (!cell) continue;
        const print = await smallPrint(frame, cell.recipe, long, stop.signal);
        made.push(print.address);
        if (!stop.signal.aborted) setPictures((now) => ({ ...now, [cell.key]: print }));
      }
    };
    const workers = Array.from({ length: AT_ONCE }, work);
    Promise.all(workers).catch((error) => !stop.signal.aborted && tell(error));
    return () => {
      stop.abort();
      for (const address of made) URL.revokeObjectURL(address);
    };
  }, [frame, cells, long, tell]);
  return pictures;
}
