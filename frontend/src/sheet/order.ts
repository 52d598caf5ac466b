import type { Frame } from "../api/client";

export type Order = "number" | "time" | "name" | "mark" | "exposure";
export const ORDERS: { value: Order; text: string }[] = [
  { value: "number", text: "by number" },
  { value: "time", text: "by time" },
  { value: "name", text: "by name" },
  { value: "mark", text: "by mark" },
  { value: "exposure", text: "by exposure" },
];
const MARKED = { ring: 0, dot: 1, none: 2, cross: 3 };

/** EV at ISO 100 a frame was exposed for; what has none comes last. */
function exposure({ metadata: { shutter, aperture, sensitivity } }: Frame): number {
  if (!shutter || !aperture || !sensitivity) return Number.POSITIVE_INFINITY;
  return Math.log2(aperture ** 2 / shutter) - Math.log2(sensitivity / 100);
}

const KEYS: Record<Order, (a: Frame, b: Frame) => number> = {
  number: () => 0,
  time: (a, b) => (a.metadata.taken ?? "~").localeCompare(b.metadata.taken ?? "~"),
  name: (a, b) => a.file_name.localeCompare(b.file_name),
  mark: (a, b) => MARKED[a.mark] - MARKED[b.mark],
  exposure: (a, b) => exposure(a) - exposure(b),
};

export const ordered = (frames: Frame[], order: Order): Frame[] =>
  [...frames].sort((a, b) => KEYS[order](a, b) || a.number - b.number);

/** Whether a frame has all the words in its names, camera, lens or date. */
export function matches(frame: Frame, search: string): boolean {
  const { camera, lens, taken } = frame.metadata;
  const text = [frame.title, frame.file_name, camera, lens, taken].join(" ").toLowerCase();
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
