/** Where the tags of metered spots hang on the zone staff, and what they say. */

import type { Facts } from "../api/client";
import { onZone, roman } from "../wording/format";

export const ZONES = 11;
const LETTER = 18; // px, of the tag itself
const GAP = 6;
/** Zones by which a spot may lie off where it was put and still be there. */
const STILL = 0.05;
const STOP = Math.log10(2);

export interface Spot {
  letter: string;
  zone: number;
  placed: number | null;
  clipped: boolean;
}

/** Where a zone's middle lies, part of the staff's width; what lies beyond hangs at its ends. */
export const placeOf = (zone: number) => (Math.min(Math.max(zone, -0.5), 10.5) + 0.5) / ZONES;

/** A zone in thirds, on the staff. */
export const snapped = (zone: number) => Math.min(Math.max(Math.round(zone * 3) / 3, 0), 10);

/** Says when a zone lies where the film's curve is no longer straight. */
function curved(zone: number, straight: Facts["straight"] | undefined): string {
  if (!straight) return "";
  const at = (zone - 5) * STOP;
  if (at < straight[0] - 0.02) return ", on the toe";
  return at > straight[1] + 0.02 ? ", on the shoulder" : "";
}

/** What a tag says: where its spot was put, or falls; also where it has gone from there since. */
export function wordsOf(spot: Spot, straight: Facts["straight"] | undefined): string {
  const falls = `falls ${onZone(spot.zone)}${spot.clipped ? " or higher" : ""}`;
  if (spot.placed === null) return falls;
  if (Math.abs(spot.zone - spot.placed) < STILL || (spot.clipped && spot.zone < spot.placed)) {
    return `placed on ${roman(spot.placed)}${curved(spot.placed, straight)}`;
  }
  return `${falls}, was placed on ${roman(spot.placed)}`;
}

export interface Hung {
  letter: string;
  /** Middle of the tag, px from the staff's left. */
  at: number;
  side: "left" | "right";
  /** Room for its words, px; 0 where they would lie on another tag. */
  room: number;
}

/** Tags with the sides their words stand on and the room for them: none lies on another's. The
 * chosen one comes first, then from the left; words that have no room for most of them are left
 * out, but for the chosen one's, which are cut. */
export function hang(
  tags: { letter: string; zone: number; words: number }[],
  chosen: string | null,
  width: number,
): Hung[] {
  const placed = tags.map((tag) => ({ ...tag, at: placeOf(tag.zone) * width }));
  const taken: [number, number][] = placed.map(({ at }) => [at - LETTER / 2, at + LETTER / 2]);
  const found = new Map<string, Hung>();
  const order = [...placed].sort(
    (a, b) => Number(b.letter === chosen) - Number(a.letter === chosen) || a.at - b.at,
  );
  for (const tag of order) {
    const right = tag.at + LETTER / 2 + GAP;
    const left = tag.at - LETTER / 2 - GAP;
    const others = taken.filter(([from, to]) => !(from <= tag.at && tag.at <= to));
    const ahead = Math.min(width, ...others.filter(([from]) => from >= tag.at).map(([f]) => f));
    const behind = Math.max(0, ...others.filter(([, to]) => to <= tag.at).map(([, t]) => t));
    const rooms = { right: ahead - right, left: left - behind };
    const side = rooms.right >= tag.words || rooms.right >= rooms.left ? "right" : "left";
    const room = Math.max(0, Math.min(rooms[side], tag.words));
    const said = tag.letter === chosen ? room > LETTER : room >= tag.words;
    found.set(tag.letter, { letter: tag.letter, at: tag.at, side, room: said ? room : 0 });
    if (said) taken.push(side === "right" ? [right, right + room] : [left - room, left]);
  }
  return placed.flatMap(({ letter }) => found.get(letter) ?? []);
}

/** Zones by the keys that put a spot there: a digit, 0 twice for X, arrows by a third. */
export function zoneByKey(key: string, zone: number, again: boolean): number | null {
  if (/^[0-9]$/.test(key)) return key === "0" && again ? 10 : Number(key);
  if (key === "ArrowRight" || key === "ArrowUp") return snapped(snapped(zone) + 1 / 3);
  if (key === "ArrowLeft" || key === "ArrowDown") return snapped(snapped(zone) - 1 / 3);
  return null;
}
