import type { ContactSheet, Mark } from "../api/client";

export type Order = "number" | "time" | "name" | "mark" | "exposure";
export const ORDERS: { value: Order; text: string }[] = [
  { value: "number", text: "by number" },
  { value: "time", text: "by time" },
  { value: "name", text: "by name" },
  { value: "mark", text: "by mark" },
  { value: "exposure", text: "by exposure" },
];
/** As the server numbers them. */
export const MARK_NUMBERS: Mark[] = ["none", "ring", "dot", "cross"];
const numberOf = (mark: Mark) => MARK_NUMBERS.indexOf(mark);
/** Ring, dot, none, cross. */
const RANK = [2, 0, 1, 3];

export const NO_FRAMES: ContactSheet = { frames: [], marks: [], lost: 0, lost_place: null };

/** The frames of a sheet that have a mark, in its order or by their marks. */
export function shownOf(sheet: ContactSheet, only: Mark | null, byMark: boolean): number[] {
  const { frames, marks } = sheet;
  const kept = only ? frames.filter((_, i) => marks[i] === numberOf(only)) : frames;
  if (!byMark || only) return kept;
  return RANK.flatMap((_, rank) => frames.filter((_, i) => RANK[marks[i] ?? 0] === rank));
}

/** How many frames of a sheet have a mark. */
export const marked = (sheet: ContactSheet, mark: Mark): number =>
  sheet.marks.reduce((sum, m) => (m === numberOf(mark) ? sum + 1 : sum), 0);

/** The mark that all of some frames have; null where they differ. */
export function commonMark(sheet: ContactSheet, some: number[]): Mark | null {
  if (some.length === 0) return null;
  const ids = new Set(some);
  const found = new Set(sheet.marks.filter((_, i) => ids.has(sheet.frames[i] ?? 0)));
  return found.size === 1 ? (MARK_NUMBERS[[...found][0] ?? 0] ?? null) : null;
}

/** A sheet whose frames with these ids have got a mark. */
export function withMark(sheet: ContactSheet, ids: ReadonlySet<number>, mark: Mark): ContactSheet {
  const to = numberOf(mark);
  return { ...sheet, marks: sheet.marks.map((m, i) => (ids.has(sheet.frames[i] ?? 0) ? to : m)) };
}
