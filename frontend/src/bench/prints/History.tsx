import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { api, type PrintState, stateUrl } from "../../api/client";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { useBench, useBenchStore } from "../../state/bench";

type Look = "list" | "pictures" | "proofs";
const HEIGHTS: Record<Look, number> = { list: 30, pictures: 66, proofs: 66 };
const LOOK_MS = 120; // that one points before it is shown large

/** Every state the print had, newest first: pointing at one shows it, a click goes there; what is
 * named is a proof. */
export function History() {
  const store = useBenchStore();
  const queries = useQueryClient();
  const { print, tell, edition } = useBench(({ print, tell, frame }) => ({
    print,
    tell,
    edition: frame.edition,
  }));
  const [look, setLook] = useState<Look>("pictures");
  const [naming, setNaming] = useState<number | null>(null);
  const states = useQuery({
    queryKey: ["history", print.id, print.head],
    queryFn: () => api.history(print.id),
    placeholderData: (last) => last,
  });
  const line = useMemo(() => ancestorsOf(states.data ?? [], print.head), [states.data, print.head]);
  const shown = useMemo(
    () => (states.data ?? []).filter(({ proof }) => look !== "proofs" || proof).reverse(),
    [states.data, look],
  );
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => HEIGHTS[look],
    overscan: 4,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows change their height with the look
  useEffect(() => rows.measure(), [look, rows]);

  const pointed = useRef(0);
  const leave = useCallback(() => {
    window.clearTimeout(pointed.current);
    pointed.current = 0;
    store.setState({ trial: null });
  }, [store]);
  useEffect(() => leave, [leave]);
  const point = (state: number) => {
    window.clearTimeout(pointed.current);
    const turn = window.setTimeout(async () => {
      try {
        const trial = await queries.fetchQuery({
          queryKey: ["state", print.id, state],
          queryFn: () => api.state(print.id, state),
          staleTime: Infinity,
        });
        if (pointed.current === turn) store.setState({ trial });
      } catch (error) {
        tell(error);
      }
    }, LOOK_MS);
    pointed.current = turn;
  };
  const go = (state: number) => {
    leave();
    store.getState().go(state);
  };
  const keep = async (state: number, name: string | null) => {
    setNaming(null);
    try {
      await store.getState().kept();
      await api.keepProof(print.id, state, name);
      await queries.invalidateQueries({ queryKey: ["history", print.id] });
    } catch (error) {
      tell(error);
    }
  };
  const walk = (event: React.KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const here = (event.target as HTMLElement).closest("[data-index]");
    if (!by || !here || event.target instanceof HTMLInputElement) return;
    event.preventDefault();
    const to = Number(here.getAttribute("data-index")) + by;
    if (to < 0 || to >= shown.length) return;
    rows.scrollToIndex(to);
    requestAnimationFrame(() =>
      scroller.current?.querySelector<HTMLElement>(`[data-index="${to}"] button`)?.focus(),
    );
  };
  return (
    <aside aria-label="History" className="flex min-h-0 flex-col border-r border-black bg-panel">
      <div className="px-4 pt-3.5">
        <div className="flex items-baseline justify-between">
          <h1 className="text-head font-semibold">History</h1>
          <Button hint="Esc" onClick={() => store.getState().leave()}>
            Done
          </Button>
        </div>
        <p className="mb-2.5 text-note text-soft">
          Every state of this print. Point at one to see it, click to go there; nothing is lost.
        </p>
        <Segments
          label="What is shown"
          value={look}
          options={[
            { value: "pictures", text: "Pictures" },
            { value: "list", text: "List" },
            { value: "proofs", text: "Proofs" },
          ]}
          onChange={setLook}
        />
        <div className="my-2">
          {naming === print.head ? (
            <ProofName onKeep={(name) => keep(print.head, name)} onLeave={() => setNaming(null)} />
          ) : (
            <Button onClick={() => setNaming(print.head)}>Keep this state as a proof…</Button>
          )}
        </div>
      </div>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: what lies in it is walked */}
      <div
        ref={scroller}
        onPointerLeave={leave}
        onKeyDown={walk}
        className="min-h-0 flex-1 overflow-y-auto px-2.5 pb-3"
      >
        {states.isSuccess && shown.length === 0 && (
          <p className="px-1.5 py-2 text-note text-faint">
            No proofs yet. Name a state, and it stays at hand.
          </p>
        )}
        <ul className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start, size }) => {
            const state = shown[index];
            if (!state) return null;
            const now = state.id === print.head;
            return (
              <li
                key={state.id}
                data-index={index}
                className="absolute inset-x-0 flex items-center gap-2"
                style={{ top: start, height: size }}
              >
                <button
                  type="button"
                  aria-current={now ? "step" : undefined}
                  onPointerEnter={() => point(state.id)}
                  onFocus={() => point(state.id)}
                  onClick={() => go(state.id)}
                  className={`flex h-[calc(100%-4px)] min-w-0 flex-1 items-center gap-2.5 rounded-[3px] px-1.5 text-left ${
                    now ? "bg-raise" : "hover:bg-[#262626]"
                  } ${line.has(state.id) ? "" : "opacity-55"}`}
                >
                  {look !== "list" && (
                    <img
                      src={stateUrl(print.id, state.id, edition)}
                      alt=""
                      loading="lazy"
                      className="h-14 w-[76px] shrink-0 object-contain"
                    />
                  )}
                  <span className="min-w-0">
                    <span
                      className={`block truncate text-[12.5px] ${now ? "text-amber" : ""}`}
                      title={state.label}
                    >
                      {state.proof ? <b className="font-semibold">{state.proof}</b> : state.label}
                    </span>
                    {look !== "list" && (
                      <span className="block truncate text-small text-faint">
                        {timeOf(state.made_at)}
                        {!line.has(state.id) && " · another branch"}
                        {state.proof && ` · ${state.label}`}
                      </span>
                    )}
                  </span>
                </button>
                {state.proof && (
                  <button
                    type="button"
                    aria-label={`${state.proof} is no longer a proof`}
                    title="No longer a proof; the state stays"
                    onClick={() => keep(state.id, null)}
                    className="px-1 text-faint hover:text-ink"
                  >
                    ×
                  </button>
                )}
              </li>
            );
          })}
        </ul>
      </div>
    </aside>
  );
}

function ProofName({ onKeep, onLeave }: { onKeep: (name: string) => void; onLeave: () => void }) {
  return (
    <form
      className="flex gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        const name = String(new FormData(event.currentTarget).get("name") ?? "").trim();
        if (name) onKeep(name);
      }}
    >
      <input
        name="name"
        aria-label="Name of the proof"
        placeholder="Name of the proof"
        maxLength={120}
        ref={(element) => element?.focus()}
        onKeyDown={(event) => {
          if (event.key !== "Escape") return;
          event.stopPropagation();
          onLeave();
        }}
        className="min-w-0 flex-1 rounded-[2px] bg-well px-2 py-1 text-[12.5px]"
      />
      <Button type="submit">Keep</Button>
    </form>
  );
}

/** A state and all that it was made of. */
function ancestorsOf(states: PrintState[], head: number): Set<number> {
  const parents = new Map(states.map(({ id, parent }) => [id, parent]));
  const found = new Set<number>();
  for (let id: number | null | undefined = head; id; id = parents.get(id)) found.add(id);
  return found;
}

const TIME = new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" });
const timeOf = (made: string) => TIME.format(new Date(made));
