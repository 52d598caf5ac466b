/** Drawings on sheets: things that are drawn on the picture are kept once under the name of their
 * content, and recipes name the sheets; the brushes of passes name those of their strokes. A change
 * of one thing writes the one sheet it is on. */

import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { api } from "../api/client";
import type { Ink, Mend, Outline, Pass, Recipe, Sheet, Stroke } from "../api/types";
import { leanPass, wholePass } from "../bench/map/wholes";

/** What is drawn, by what the recipe or a brush calls its sheets. */
export interface Drawn {
  mends: Mend;
  protected: Outline;
  passes: Pass;
  strokes: Stroke;
  inks: Ink;
}
type Kind = keyof Drawn;
const LISTS = {
  mends: "mends",
  protected: "outlines",
  passes: "passes",
  strokes: "strokes",
  inks: "inks",
} as const;

/** Characters from which a sheet takes no more. */
const FULL = 6000;
const KEPT = 2000;

const texts = new Map<string, string>();
const read = new Map<string, Sheet>();
const unsent = new Set<string>();

const nameOf = (text: string) => bytesToHex(sha256(new TextEncoder().encode(text))).slice(0, 32);

function keep(name: string, text: string) {
  texts.set(name, text);
  read.set(name, JSON.parse(text));
}

/** Things on a new sheet; gives its name. */
function put<K extends Kind>(kind: K, things: Drawn[K][]): string {
  const written = kind === "passes" ? (things as Pass[]).map(leanPass) : things;
  const text = JSON.stringify({ [LISTS[kind]]: written });
  const name = nameOf(text);
  if (texts.has(name)) return name;
  unsent.add(name);
  keep(name, text);
  return name;
}

/** The sheets of all strokes of passes. */
const strokeSheets = (passes: Pass[]) =>
  passes.flatMap((pass) =>
    pass.shapes.flatMap((shape) => (shape.kind === "brush" ? shape.strokes : [])),
  );

const inksIn = (mount: Recipe["mount"]) =>
  mount.inscriptions.flatMap(({ ink }) => (ink ? [ink] : []));

const namesIn = ({ capture, enlarger, mount }: Recipe) => [
  ...capture.mends,
  ...capture.protected,
  ...enlarger.passes,
  ...inksIn(mount),
  ...strokeSheets(drawn("passes", enlarger.passes)),
];

/** Brings in what is on the sheets of a recipe. */
export async function loadSheets(recipe: Recipe) {
  const fetched = async (names: string[]) => {
    const missing = [...new Set(names)].filter((name) => !texts.has(name));
    const found = await Promise.all(missing.map((name) => api.sheet(name)));
    missing.forEach((name, i) => {
      keep(name, JSON.stringify(found[i]));
    });
  };
  await fetched([
    ...recipe.capture.mends,
    ...recipe.capture.protected,
    ...recipe.enlarger.passes,
    ...inksIn(recipe.mount),
  ]);
  await fetched(strokeSheets(drawn("passes", recipe.enlarger.passes)));
  const needed = new Set(namesIn(recipe));
  // the oldest go: what only was on its way to something else too
  for (const name of texts.keys()) {
    if (texts.size <= KEPT) break;
    if (needed.has(name)) continue;
    texts.delete(name);
    read.delete(name);
    unsent.delete(name);
  }
}

/** The texts of a recipe's sheets that the server has not kept. */
export const unsentOf = (recipe: Recipe): string[] =>
  [...new Set(namesIn(recipe))]
    .filter((name) => unsent.has(name))
    .map((name) => texts.get(name) ?? "");

/** The server has kept these. */
export function kept(sent: string[]) {
  for (const text of sent) unsent.delete(nameOf(text));
}

function on<K extends Kind>(kind: K, name: string): Drawn[K][] {
  return (read.get(name)?.[LISTS[kind]] ?? []) as unknown as Drawn[K][];
}

const WHOLE: { [K in Kind]: (thing: Drawn[K]) => Drawn[K] } = {
  mends: (mend) => ({
    ...{ x: 0, y: 0, radius: 2, path: [], fill: false, from_x: null, from_y: null },
    ...mend,
  }),
  protected: (outline) => outline,
  passes: wholePass,
  inks: (ink) => ink,
  strokes: (stroke) => ({ ...{ soft: 0.6, flow: 1, take: false, pressure: [] }, ...stroke }),
};

/** All that is drawn on sheets, in order. */
export const drawn = <K extends Kind>(kind: K, names: string[]): Drawn[K][] =>
  names.flatMap((name) => on(kind, name)).map(WHOLE[kind]);

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

/** The sheet that a thing is on, by its number among all; null past the end. */
function placeOn<K extends Kind>(kind: K, names: string[], index: number) {
  let before = 0;
  for (const [sheet, name] of names.entries()) {
    const things = on(kind, name);
    if (index < before + things.length) return { sheet, things, at: index - before };
    before += things.length;
  }
  return null;
}

/** The sheets with the thing at a place changed (null: taken away); neighbours that fit on one sheet
 * are joined, so that there are never many. */
export function withChange<K extends Kind>(
  kind: K,
  names: string[],
  index: number,
  to: Drawn[K] | null,
): string[] {
  const found = placeOn(kind, names, index);
  if (!found) return names;
  const { sheet, things, at } = found;
  if (to) return names.with(sheet, put(kind, things.with(at, to)));
  const left = things.toSpliced(at, 1);
  const next = left.length ? names.with(sheet, put(kind, left)) : names.toSpliced(sheet, 1);
  return joinedAbout(kind, next, sheet);
}

/** The sheets with a thing put in before a place. */
export function withInserted<K extends Kind>(
  kind: K,
  names: string[],
  index: number,
  thing: Drawn[K],
): string[] {
  const found = placeOn(kind, names, index);
  if (!found) return withMore(kind, names, [thing]);
  const next = found.things.toSpliced(found.at, 0, thing);
  const half = Math.ceil(next.length / 2);
  const fits = JSON.stringify(next).length <= FULL;
  const parts = fits ? [next] : [next.slice(0, half), next.slice(half)];
  return names.toSpliced(found.sheet, 1, ...parts.map((part) => put(kind, part)));
}

/** One thing on a sheet of its own. */
export const alone = <K extends Kind>(kind: K, thing: Drawn[K]): string[] => [put(kind, [thing])];

function joinedAbout<K extends Kind>(kind: K, names: string[], place: number): string[] {
  for (const i of [place - 1, place]) {
    const [one, other] = [names[i], names[i + 1]];
    if (!one || !other) continue;
    if ((texts.get(one)?.length ?? FULL) + (texts.get(other)?.length ?? FULL) > FULL) continue;
    return names.toSpliced(i, 2, put(kind, [...on(kind, one), ...on(kind, other)]));
  }
  return names;
}
