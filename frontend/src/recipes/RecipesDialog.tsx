import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, type KeptRecipe } from "../api/client";
import { Button } from "../parts/Button";
import { Naming } from "./Naming";
import { Sheet } from "./Sheet";

interface RecipesProps {
  print: number;
  kept: () => Promise<void>;
  onKeep: () => void;
  onApply: () => void;
  onClose: () => void;
}

/** The recipes that were kept, and what is done with them. */
export function RecipesDialog({ print, kept, onKeep, onApply, onClose }: RecipesProps) {
  const queries = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const recipes = useQuery({ queryKey: ["recipes"], queryFn: api.recipes });
  const [editing, setEditing] = useState<KeptRecipe | null>(null);
  const does = useMutation({
    mutationFn: (work: () => Promise<unknown>) => work(),
    onSuccess: () => {
      setEditing(null);
      queries.invalidateQueries({ queryKey: ["recipes"] });
    },
  });
  const small = "rounded-[3px] px-1.5 py-0.5 text-small text-soft hover:bg-lift hover:text-ink";
  const all = recipes.data ?? [];
  return (
    <Sheet
      title="Recipes"
      about="Settings kept to be put on other prints. They stand among the starting prints too, under Mine."
      wrong={does.error ?? recipes.error}
      onClose={onClose}
      buttons={
        <>
          <Button className="mr-auto" onClick={() => picker.current?.click()}>
            Read a file…
          </Button>
          <Button onClick={onApply}>Put on this print…</Button>
          <Button go onClick={onKeep}>
            Keep this print’s…
          </Button>
          <input
            ref={picker}
            type="file"
            accept=".json,application/json"
            aria-label="Recipe file"
            className="hidden"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) does.mutate(() => api.takeRecipe(file));
              event.target.value = "";
            }}
          />
        </>
      }
    >
      {recipes.isSuccess && all.length === 0 && (
        <p className="py-4 text-center text-note text-soft">
          None yet. Keep the look of this print, or read a recipe from a file.
        </p>
      )}
      <ul aria-label="Kept recipes" className="flex flex-col">
        {all.map((each) => (
          <li key={each.id} className="border-line border-b py-1.5 last:border-b-0">
            {editing?.id === each.id ? (
              <form
                onSubmit={(event) => {
                  event.preventDefault();
                  const { name, group, note } = editing;
                  does.mutate(() => api.renameRecipe(each.id, { name, group, note }));
                }}
              >
                <Naming now={editing} onChange={(next) => setEditing({ ...each, ...next })} />
                <div className="mt-1 flex justify-end gap-1.5">
                  <Button onClick={() => setEditing(null)}>Cancel</Button>
                  <Button type="submit">Rename</Button>
                </div>
              </form>
            ) : (
              <div className="flex items-center gap-1">
                <span
                  className={`min-w-0 flex-1 truncate text-[12.5px] ${each.binned ? "text-faint" : ""}`}
                >
                  {each.name}
                  <span className="text-small text-faint">
                    {each.group && ` · ${each.group}`} · {Object.keys(each.holds).join(", ")}
                    {each.note && ` · ${each.note}`}
                  </span>
                </span>
                {each.binned ? (
                  <>
                    <span className="text-small text-faint">in the bin</span>
                    <button
                      type="button"
                      className={small}
                      aria-label={`Put ${each.name} back`}
                      onClick={() => does.mutate(() => api.restoreRecipe(each.id))}
                    >
                      put back
                    </button>
                  </>
                ) : (
                  <>
                    <button
                      type="button"
                      className={small}
                      aria-label={`Rename ${each.name}`}
                      onClick={() => setEditing(each)}
                    >
                      rename
                    </button>
                    <button
                      type="button"
                      className={small}
                      title="What it holds becomes as it is on this print"
                      aria-label={`Update ${each.name} from this print`}
                      onClick={() =>
                        does.mutate(() => kept().then(() => api.updateRecipe(each.id, print)))
                      }
                    >
                      update
                    </button>
                    <a
                      className={small}
                      href={`/api/recipes/${each.id}/file`}
                      download
                      aria-label={`${each.name} as a file`}
                    >
                      file
                    </a>
                    <button
                      type="button"
                      className={small}
                      aria-label={`Put ${each.name} in the bin`}
                      onClick={() => does.mutate(() => api.binRecipe(each.id))}
                    >
                      bin
                    </button>
                  </>
                )}
              </div>
            )}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
