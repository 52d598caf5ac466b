import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, fieldOf, type RecipeSchema, type StationName } from "../api/client";
import { STATION_NAMES } from "../api/recipe";

/** Fields by station. */
export type Holds = Record<string, string[]>;

export const placesOf = (holds: Holds) =>
  Object.entries(holds).flatMap(([station, fields]) => fields.map((name) => `${station}.${name}`));

const titleOf = (station: string) => `${station[0]?.toUpperCase()}${station.slice(1)}`;

/** Which of some settings are meant: by station, or one by one. */
export function SettingsChoice({
  holds,
  chosen,
  onChoose,
}: {
  holds: Holds;
  chosen: ReadonlySet<string>;
  onChoose: (chosen: Set<string>) => void;
}) {
  const schema = useQuery({ queryKey: ["schema"], queryFn: api.recipeSchema, staleTime: Infinity });
  const [open, setOpen] = useState<string | null>(null);
  const set = (places: string[], on: boolean) => {
    const next = new Set(chosen);
    for (const place of places) {
      if (on) next.add(place);
      else next.delete(place);
    }
    onChoose(next);
  };
  return (
    <ul aria-label="Settings" className="flex flex-col text-[12.5px]">
      {STATION_NAMES.filter((station) => holds[station]?.length).map((station) => {
        const places = (holds[station] ?? []).map((name) => `${station}.${name}`);
        const on = places.filter((place) => chosen.has(place)).length;
        return (
          <li key={station} className="border-line border-b py-1 last:border-b-0">
            <div className="flex items-center gap-2">
              <Check
                label={titleOf(station)}
                state={on === 0 ? "none" : on === places.length ? "all" : "some"}
                onCheck={(to) => set(places, to)}
              />
              <button
                type="button"
                aria-expanded={open === station}
                onClick={() => setOpen(open === station ? null : station)}
                className="ml-auto text-small text-faint hover:text-ink"
              >
                {on} of {places.length} settings {open === station ? "▴" : "▾"}
              </button>
            </div>
            {open === station && (
              <div className="grid grid-cols-3 gap-x-3 py-1.5 pl-6">
                {places.map((place) => (
                  <Check
                    key={place}
                    small
                    label={schema.data ? nameOf(schema.data, place) : place}
                    state={chosen.has(place) ? "all" : "none"}
                    onCheck={(to) => set([place], to)}
                  />
                ))}
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}

function nameOf(schema: RecipeSchema, place: string) {
  const [station, field] = place.split(".") as [StationName, string];
  return fieldOf(schema, station, field).title;
}

interface CheckProps {
  label: string;
  state: "all" | "some" | "none";
  small?: boolean;
  onCheck: (to: boolean) => void;
}

function Check({ label, state, small, onCheck }: CheckProps) {
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (box.current) box.current.indeterminate = state === "some";
  }, [state]);
  return (
    <label
      className={`flex min-w-0 items-center gap-2 ${small ? "py-px text-small text-soft" : ""}`}
    >
      <input
        ref={box}
        type="checkbox"
        checked={state === "all"}
        onChange={() => onCheck(state !== "all")}
        className="shrink-0 accent-amber"
      />
      <span className="truncate">{label}</span>
    </label>
  );
}
