/** The wall that a proof hangs on, and the light on it. */

/** Light on the wall: ISO 3664 for comparing (P1) and for judging (P2), and a room in the evening. */
const LEVELS = { p1: 2000, p2: 500, room: 60 } as const;
/** Of a change of light, what an eye that is used to it goes on seeing (own model). */
const SEEN = 0.08;
/** What white looks like under a lamp once the eye is used to it: a quarter of its colour stays
 * (own model; adaptation to warm light is incomplete). */
const LAMPS = { d50: [1, 1, 1], led: [1, 0.975, 0.94], warm: [1, 0.945, 0.86] } as const;

export interface WallSettings {
  /** L* of the wall. */
  tone: number;
  level: keyof typeof LEVELS;
  lamp: keyof typeof LAMPS;
  from: "near" | "room";
}
export const FIRST_WALL: WallSettings = { tone: 82, level: "p1", lamp: "d50", from: "near" };

export const WALL_HEIGHT = 2400; // mm of wall that are seen from across the room
export const EYES = 1550; // mm above the floor
export const SKIRTING = 90;

/** The grey of a lightness, as CSS. */
export function greyOfLightness(lightness: number): string {
  const y = lightness > 8 ? ((lightness + 16) / 116) ** 3 : (lightness * 27) / 24389;
  const shown = y <= 0.0031308 ? 12.92 * y : 1.055 * y ** (1 / 2.4) - 0.055;
  const code = Math.round(255 * shown);
  return `rgb(${code} ${code} ${code})`;
}

/** What all that hangs there is multiplied by: the light's colour and strength. */
export function lightOn({ level, lamp }: WallSettings): string {
  const seen = (LEVELS[level] / LEVELS.p1) ** SEEN;
  return `rgb(${LAMPS[lamp].map((part) => Math.round(255 * part * seen)).join(" ")})`;
}

export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** From across the room the print hangs with its middle at the height of a person's eyes. */
export function hung(box: Box, room: { width: number; height: number }, tall: number): string {
  const scale = room.height / WALL_HEIGHT;
  const middle = { x: box.left + box.width / 2, y: box.top + box.height / 2 };
  const to = { x: room.width / 2, y: room.height - EYES * scale };
  return `translate(${to.x - middle.x}px, ${to.y - middle.y}px) scale(${(tall * scale) / box.height})`;
}
