/** Numbers as people type them: with a point or a comma, fractions, and units. */

export const PARTS: [number, string][] = [
  [1 / 6, "⅙"],
  [1 / 4, "¼"],
  [1 / 3, "⅓"],
  [1 / 2, "½"],
  [2 / 3, "⅔"],
  [3 / 4, "¾"],
  [5 / 6, "⅚"],
];
const SIGNS = PARTS.map(([, sign]) => sign).join("");

/** Spellings of what may follow a number, by the unit of the field: how many of that unit it is. */
const UNITS: Record<string, Record<string, number>> = {
  s: {
    s: 1,
    sec: 1,
    second: 1,
    seconds: 1,
    m: 60,
    min: 60,
    minute: 60,
    minutes: 60,
    h: 3600,
    hour: 3600,
    hours: 3600,
  },
  stops: { stop: 1, stops: 1, ev: 1 },
  mm: { mm: 1, cm: 10, m: 1000 },
  "%": { "%": 1, percent: 1 },
  K: { k: 1, kk: 1000 },
  "°": { "°": 1, deg: 1, degree: 1, degrees: 1 },
};

const ONE = new RegExp(
  `^(?:(\\d+)/(\\d+)|([${SIGNS}])|(\\d+(?:[.,]\\d+)?|[.,]\\d+)(?:\\s*([${SIGNS}])|\\s+(\\d+)/(\\d+))?)\\s*([a-z%°]*)\\s*`,
  "i",
);

/** A number as it was typed for a field of some unit, null where it is none: 1.5, 64,5, 1⅓, 2/3,
 * 1 2/3, −2, 1 h, 2 min 30 s or 2:30 for seconds. What is not understood is never guessed at. */
export function readNumber(text: string, unit = ""): number | null {
  const plain = text
    .trim()
    .replace(/[−–]/g, "-")
    .replace(/\s*\/\s*/g, "/");
  const sign = plain.startsWith("-") ? -1 : 1;
  const rest = plain.replace(/^[+-]\s*/, "");
  const clock = unit === "s" ? /^(\d+):([0-5]?\d(?:[.,]\d+)?)$/.exec(rest) : null;
  if (clock) return sign * (Number(clock[1]) * 60 + Number(clock[2]?.replace(",", ".")));
  const spelt = { [unit.toLowerCase()]: 1, ...UNITS[unit] };
  let sum = 0;
  let left = rest;
  let parts = 0;
  let last = Number.POSITIVE_INFINITY;
  while (left) {
    const found = ONE.exec(left);
    if (!found) return null;
    const [whole = "", over, under, sign2, number, sign1, above, below, name = ""] = found;
    const times = name ? spelt[name.toLowerCase()] : 1;
    // several only as in 2 min 30 s, each smaller than the one before
    if (times === undefined || times >= last || (parts > 0 && !name)) return null;
    const size = (mark: string | undefined) => PARTS.find(([, p]) => p === mark)?.[0] ?? 0;
    const value =
      Number(number?.replace(",", ".") ?? 0) +
      size(sign1 ?? sign2) +
      (above ? Number(above) / Number(below) : 0) +
      (over ? Number(over) / Number(under) : 0);
    sum += value * times;
    last = name ? times : 0;
    left = left.slice(whole.length);
    parts += 1;
  }
  return parts && Number.isFinite(sum) ? sign * sum : null;
}
