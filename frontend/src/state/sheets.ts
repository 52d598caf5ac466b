/** Drawings on sheets: things that are drawn on the picture are kept once under the name of their
 * content, and recipes name the sheets. A change of one thing writes the one sheet it is on. */

import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { api } from "../api/client";
import type { Mend, Outline, Recipe, Sheet } from "../api/types";

/** What is drawn, by the field of the Capture station that names its sheets. */
export interface Drawn {
  mends: Mend;
  protected: Outline;
}
type Kind = keyof Drawn;
const LISTS = { mends: "mends", protected: "outlines" } as const;

/** Characters from which a sheet takes no more. */
const FULL = 8000;
const KEPT = 2000;

const texts = new Map<string, string>();
const unsent = new Set<string>();

const nameOf = (text: string) => bytesToHex(sha256(new TextEncoder().encode(text))).slice(0, 32);

/** Things on a new sheet; gives its name. */
function put<K extends Kind>(kind: K, things: Drawn[K][]): string {
  const text = JSON.stringify({ [LISTS[kind]]: things });
  const name = nameOf(text);
  if (!texts.has(name)) unsent.add(name);
  texts.set(name, text);
  return name;
}

const namesIn = ({ capture }: Recipe) => [...capture.mends, ...capture.protected];

/** Brings in what is on the sheets of a recipe. */
export async function loadSheets(recipe: Recipe) {
  const missing = namesIn(recipe).filter((name) => !texts.has(name));
  const found = await Promise.all(missing.map((name) => api.sheet(name)));
  missing.forEach((name, i) => {
    texts.set(name, JSON.stringify(found[i]));
  });
  for (const name of texts.keys()) {
    if (texts.size <= KEPT) break;
    if (!unsent.has(name) && !namesIn(recipe).includes(name)) texts.delete(name);
  }
}

/** The texts of a recipe's sheets that the server has not kept. */
export const unsentOf = (recipe: Recipe): string[] =>
  namesIn(recipe)
    .filter((name) => unsent.has(name))
    .map((name) => texts.get(name) ?? "");

/** The server has kept these. */
export function kept(sent: string[]) {
  for (const text of sent) unsent.delete(nameOf(text));
}

function on<K extends Kind>(kind: K, name: string): Drawn[K][] {
  const sheet = JSON.parse(texts.get(name) ?? "{}") as Sheet;
  return (sheet[LISTS[kind]] ?? []) as unknown as Drawn[K][];
}

const whole: Drawn = {
  mends: { x: 0, y: 0, radius: 2, path: [], fill: false, from_x: null, from_y: null },
  protected: { points: [] },
};

/** All that is drawn on sheets, in order. */
export const drawn = <K extends Kind>(kind: K, names: string[]): Drawn[K][] =>
  names.flatMap((name) => on(kind, name)).map((thing) => ({ ...whole[kind], ...thing }));

/** The sheets with things added at the end: on the last one while it has room. */
export function withMore<K extends Kind>(kind: K, names: string[], things: Drawn[K][]): string[] {
  const next = [...names];
  let last = next.at(-1);
  let here = last ? on(kind, last) : [];
  let room = last ? FULL - (texts.get(last)?.length ?? FULL) : 0;
  let begun: Drawn[K][] = [];
  const end = () => {
    if (!begun.length) return;
    const name = put(kind, [...here, ...begun]);
    if (last) next[next.length - 1] = name;
    else next.push(name);
    begun = [];
  };
  for (const thing of things) {
    const size = JSON.stringify(thing).length + 1;
    if (size > room && (here.length || begun.length || !last)) {
      end();
      last = undefined;
      here = [];
      room = FULL;
    }
    begun.push(thing);
    room -= size;
  }
  end();
  return next;
}

/** The sheets with the thing at a place changed (null: taken away); neighbours that fit on one sheet
 * are joined, so that there are never many. */
export function withChange<K extends Kind>(
  kind: K,
  names: string[],
  index: number,
  to: Drawn[K] | null,
): string[] {
  let before = 0;
  for (const [i, name] of names.entries()) {
    const here = on(kind, name);
    if (index >= before + here.length) {
      before += here.length;
      continue;
    }
    const at = index - before;
    const things = to ? here.with(at, to) : here.toSpliced(at, 1);
    const next = things.length ? names.with(i, put(kind, things)) : names.toSpliced(i, 1);
    return to ? next : joinedAbout(kind, next, i);
  }
  return names;
}

function joinedAbout<K extends Kind>(kind: K, names: string[], place: number): string[] {
  for (const i of [place - 1, place]) {
    const [one, other] = [names[i], names[i + 1]];
    if (!one || !other) continue;
    if ((texts.get(one)?.length ?? FULL) + (texts.get(other)?.length ?? FULL) > FULL) continue;
    return names.toSpliced(i, 2, put(kind, [...on(kind, one), ...on(kind, other)]));
  }
  return names;
}
