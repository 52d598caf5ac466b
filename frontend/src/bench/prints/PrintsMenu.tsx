import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "wouter";
import { api, type Frame, type PrintEntry, stateUrl } from "../../api/client";
import { Button } from "../../parts/Button";
import { Menu } from "../../parts/Menu";
import { useBench, useBenchStore } from "../../state/bench";

/** The next print of a frame after one, and round. */
export function nextOf(prints: { id: number }[], id: number): number | null {
  const at = prints.findIndex((print) => print.id === id);
  const next = prints[(at + 1) % prints.length];
  return next && next.id !== id ? next.id : null;
}

/** The prints of the frame: which this one is, and what is done with them. */
export function PrintsMenu() {
  const store = useBenchStore();
  const queries = useQueryClient();
  const [, go] = useLocation();
  const { frame, print, tell, kept } = useBench(({ frame, print, tell, kept }) => ({
    frame,
    print,
    tell,
    kept,
  }));
  const [open, setOpen] = useState(false);
  const [renaming, setRenaming] = useState<number | null>(null);
  const prints = useQuery({
    queryKey: ["prints", frame.id],
    queryFn: () => api.printsOf(frame.id),
  });
  const all = prints.data ?? [];
  const there = all.filter((each) => !each.binned);
  const at = there.findIndex((each) => each.id === print.id);

  const after = async () => {
    await queries.invalidateQueries({ queryKey: ["prints", frame.id] });
    await queries.invalidateQueries({ queryKey: ["frame", frame.id] });
    queries.invalidateQueries({ queryKey: ["frames"] });
    // what the Bench goes by was read when it was opened
    const now = queries.getQueryData<Frame>(["frame", frame.id]);
    if (now) store.setState({ frame: { ...frame, prints: now.prints, chosen: now.chosen } });
  };
  const does = (work: () => Promise<unknown>) => () => {
    work().then(after).catch(tell);
  };
  const openPrint = (id: number) => {
    setOpen(false);
    go(`/print/${id}`);
  };
  const add = async (make: () => Promise<{ id: number }>) => {
    await kept();
    const { id } = await make();
    await after();
    openPrint(id);
  };
  const named = () => `Print ${all.length + 1}`;
  const move = (id: number, by: number) => {
    const from = there.findIndex((each) => each.id === id);
    const other = there[from + by];
    if (!other) return Promise.resolve();
    const order = all.map((each) => each.id);
    const [a, b] = [order.indexOf(id), order.indexOf(other.id)];
    [order[a], order[b]] = [other.id, id];
    return api.orderPrints(frame.id, order);
  };
  const bin = async (id: number) => {
    await kept();
    await api.binPrint(id);
    if (id !== print.id) return;
    const next = nextOf(there, id);
    await after();
    go(next === null ? `/roll/${frame.roll_id}` : `/print/${next}`);
  };
  const rename = (each: PrintEntry, name: string) => {
    setRenaming(null);
    if (!name.trim() || name === each.name) return;
    does(async () => {
      await api.renamePrint(each.id, name.trim());
      if (each.id === print.id) {
        const now = store.getState().print;
        store.setState({ print: { ...now, name: name.trim() } });
      }
    })();
  };

  return (
    <Menu
      label="Prints"
      open={open}
      onOpen={setOpen}
      align="start"
      className="max-h-[80vh] w-[400px] overflow-y-auto"
      opens={
        <button
          type="button"
          title={`${print.name}: the prints of this frame (N: the next one)`}
          className="flex min-w-12 shrink-[2] items-baseline gap-1 text-left hover:text-ink"
        >
          <span className="truncate">{print.name}</span>
          <span className="shrink-0 text-small">
            ▾{there.length > 1 && ` ${at + 1} of ${there.length}`}
          </span>
        </button>
      }
    >
      <ul aria-label="Prints of this frame" className="flex flex-col gap-1">
        {there.map((each, i) => (
          <li
            key={each.id}
            className={`flex items-center gap-2.5 rounded-[3px] p-1 ${each.id === print.id ? "bg-raise" : ""}`}
          >
            <button
              type="button"
              aria-label={`Open ${each.name}`}
              onClick={() => openPrint(each.id)}
              className="h-12 w-[72px] shrink-0"
            >
              <img
                src={stateUrl(each.id, each.head, frame.edition)}
                alt=""
                className="size-full object-contain"
              />
            </button>
            {renaming === each.id ? (
              <input
                aria-label="Name of the print"
                defaultValue={each.name}
                maxLength={120}
                ref={(element) => element?.focus()}
                onFocus={(event) => event.target.select()}
                onBlur={(event) => rename(each, event.target.value)}
                onKeyDown={(event) => {
                  if (event.key === "Enter") event.currentTarget.blur();
                  if (event.key === "Escape") {
                    event.preventDefault();
                    event.stopPropagation();
                    setRenaming(null);
                  }
                }}
                className="min-w-0 flex-1 rounded-[2px] bg-well px-1.5 py-0.5"
              />
            ) : (
              <button
                type="button"
                title="Rename"
                onClick={() => setRenaming(each.id)}
                className={`min-w-0 flex-1 truncate text-left ${each.id === print.id ? "text-amber" : ""}`}
              >
                {each.name}
              </button>
            )}
            <Small
              text={frame.chosen === each.id ? "on the sheet" : "show on sheet"}
              disabled={frame.chosen === each.id}
              onDo={does(() => api.choosePrint(each.id))}
            />
            <Small
              text="↑"
              label={`Move ${each.name} up`}
              disabled={i === 0}
              onDo={does(() => move(each.id, -1))}
            />
            <Small
              text="↓"
              label={`Move ${each.name} down`}
              disabled={i === there.length - 1}
              onDo={does(() => move(each.id, 1))}
            />
            <Small
              text="bin"
              label={`Put ${each.name} in the bin`}
              onDo={does(() => bin(each.id))}
            />
          </li>
        ))}
      </ul>
      {all.some((each) => each.binned) && (
        <div className="mt-2 border-t border-line pt-2">
          <p className="px-1 text-small text-faint">In the bin, until it is emptied</p>
          {all
            .filter((each) => each.binned)
            .map((each) => (
              <div key={each.id} className="flex items-center gap-2.5 p-1">
                <span className="min-w-0 flex-1 truncate text-soft">{each.name}</span>
                <Small
                  text="put back"
                  label={`Put ${each.name} back`}
                  onDo={does(() => api.restorePrint(each.id))}
                />
              </div>
            ))}
        </div>
      )}
      <div className="mt-2 flex gap-1.5 border-t border-line pt-2">
        <Button onClick={() => add(() => api.makePrint(frame.id, named())).catch(tell)}>
          New, proposed
        </Button>
        <Button onClick={() => add(() => api.copyPrint(print.id, named())).catch(tell)}>
          Copy of this one
        </Button>
      </div>
    </Menu>
  );
}

function Small({
  text,
  label = text,
  disabled,
  onDo,
}: {
  text: string;
  label?: string;
  disabled?: boolean;
  onDo: () => void;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={onDo}
      className="rounded-[3px] px-1.5 py-0.5 text-small text-soft hover:bg-lift hover:text-ink disabled:text-[#6f6f6f] disabled:hover:bg-transparent"
    >
      {text}
    </button>
  );
}
