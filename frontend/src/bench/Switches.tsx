import { useState } from "react";
import { fieldOf, type StationName } from "../api/client";
import { fieldsOff, withFields } from "../api/recipe";
import type { Switch } from "../api/types";
import { Menu } from "../parts/Menu";
import { useBench, useBenchStore } from "../state/bench";
import { PART_TITLES, switchOf } from "./parts";

/** Switches a station, or the part of it whose controls are out, off and on, and resets it. */
export function Switches({ station, title }: { station: StationName; title: string }) {
  const { off, part } = useBench(({ recipe, parts }) => ({
    off: recipe.off,
    part: parts[station],
  }));
  const { flip, reset } = useSwitches();
  const [open, setOpen] = useState(false);
  const rows: { name: Switch; title: string }[] = [
    { name: switchOf(station), title },
    {
      name: switchOf(station, part),
      title: (PART_TITLES[station] as Record<string, string>)[part] ?? "",
    },
  ];
  const then = (does: () => void) => () => {
    does();
    setOpen(false);
  };
  const item = "block w-full rounded-[3px] px-2 py-1 text-left hover:bg-raise";
  return (
    <Menu
      label="Reset, off"
      open={open}
      onOpen={setOpen}
      align="end"
      className="w-60"
      opens={
        <button type="button" className="hover:text-ink">
          Reset, off ▾
        </button>
      }
    >
      {rows.map(({ name, title }) => (
        <div key={name} className="border-line border-b py-1 first:pt-0 last:border-b-0 last:pb-0">
          <button type="button" className={item} onClick={then(() => flip(name, title))}>
            Switch {title} {off.includes(name) ? "on" : "off"}
          </button>
          <button type="button" className={item} onClick={then(() => reset(name, title))}>
            Reset {title}
          </button>
        </div>
      ))}
    </Menu>
  );
}

/** What is off of what is looked at, and the way back. */
export function OffNote({ station, title }: { station: StationName; title: string }) {
  const { off, part } = useBench(({ recipe, parts }) => ({
    off: recipe.off,
    part: parts[station],
  }));
  const { flip } = useSwitches();
  const whole = switchOf(station);
  const name = off.includes(whole) ? whole : switchOf(station, part);
  if (!off.includes(name)) return null;
  const called =
    name === whole ? title : ((PART_TITLES[station] as Record<string, string>)[part] ?? "");
  return (
    <p
      role="status"
      className="mb-3 flex justify-between gap-2 rounded-[3px] bg-well px-2 py-1 text-note"
    >
      <span className="text-amber">{called}: off, and kept</span>
      <button
        type="button"
        className="shrink-0 text-soft hover:text-ink"
        onClick={() => flip(name, called)}
      >
        Switch on
      </button>
    </p>
  );
}

function useSwitches() {
  const store = useBenchStore();
  const flip = (name: Switch, title: string) => {
    const { recipe, put } = store.getState();
    const on = recipe.off.includes(name);
    const off = on ? recipe.off.filter((other) => other !== name) : [...recipe.off, name];
    put({ ...recipe, off }, `switch ${name}`, `${title} switched ${on ? "on" : "off"}`);
  };
  const reset = (name: Switch, title: string) => {
    const { recipe, schema, put } = store.getState();
    const { station, fields } = fieldsOff(name);
    const home = fields.map((field) => [field, fieldOf(schema, station, field).default]);
    put(withFields(recipe, station, Object.fromEntries(home)), `reset ${name}`, `Reset ${title}`);
  };
  return { flip, reset };
}
