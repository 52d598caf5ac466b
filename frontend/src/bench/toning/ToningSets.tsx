import { useState } from "react";
import { api } from "../../api/client";
import type { ShelfToning } from "../../api/types";
import { Button } from "../../parts/Button";
import { Menu } from "../../parts/Menu";
import { useBenchStore, useTray } from "../../state/bench";

/** Toning sets of the shelf, and keeping an own one. */
export function ToningSets() {
  const { shelf, recipe, change } = useTray();
  const store = useBenchStore();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const renew = async () => store.setState({ shelf: await api.shelf() });
  const told = async (work: () => Promise<unknown>) => {
    try {
      await work();
      await renew();
    } catch (error) {
      store.getState().tell(error);
    }
  };
  const keep = () =>
    told(async () => {
      const item = { id: "own", name: name.trim(), toner: recipe.toner, about: "", source: "Own." };
      await api.addItem({ format: "silvrin-shelf-1", kind: "toning", item });
      setName("");
    });
  const take = (set: ShelfToning) => {
    change("toner", set.toner as typeof recipe.toner, `Toning: ${set.name}`);
    setOpen(false);
  };
  return (
    <div className="mt-3" data-control="toner.sets">
      <Menu
        label="Toning sets"
        align="start"
        className="max-h-[70vh] w-72 overflow-y-auto"
        open={open}
        onOpen={setOpen}
        opens={<Button title="Toners together, of the shelf and own ones">Toning sets ▾</Button>}
      >
        <ul aria-label="Toning sets" className="flex flex-col gap-px">
          {shelf.tonings.map((set) => (
            <li key={set.id} className="flex items-center gap-1">
              <button
                type="button"
                title={set.about}
                onClick={() => take(set)}
                className="grid min-w-0 grow grid-cols-[64px_1fr] items-center gap-2 rounded-[3px] px-1.5 py-1 text-left hover:bg-raise"
              >
                <span
                  aria-hidden
                  className="h-4 rounded-[2px]"
                  style={{ background: `linear-gradient(90deg, ${set.scale.join(",")})` }}
                />
                <span className="truncate">{set.name}</span>
              </button>
              {set.own && (
                <button
                  type="button"
                  aria-label={`Take ${set.name} off the shelf`}
                  title="Take it off the shelf"
                  className="px-1 text-faint hover:text-ink"
                  onClick={() => told(() => api.removeItem(set.id, false))}
                >
                  ×
                </button>
              )}
            </li>
          ))}
        </ul>
        <form
          className="mt-2 flex gap-1.5 border-line border-t pt-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim()) keep();
          }}
        >
          <input
            aria-label="Name of the own set"
            placeholder="Keep this toning as…"
            value={name}
            maxLength={60}
            onChange={(event) => setName(event.target.value)}
            className="min-w-0 grow rounded-[3px] bg-well px-2 py-1 placeholder:text-faint"
          />
          <Button disabled={!name.trim()} type="submit">
            Keep
          </Button>
        </form>
      </Menu>
    </div>
  );
}
