/** Numbers as people in a darkroom write them. */

import { PARTS, readNumber } from "./numbers";

/** What was typed, not a number where it is none. */
const numberOf = (text: string) => readNumber(text) ?? Number.NaN;

const THIRDS = ["", "⅓", "⅔"];

export function signed(value: number, digits = 1): string {
  const text = Math.abs(value).toFixed(digits);
  if (Number(text) === 0) return Number(0).toFixed(digits);
  return `${value < 0 ? "−" : "+"}${text}`;
}

/** Stops in thirds, e.g. 1⅔. */
export function stops(value: number): string {
  const thirds = Math.round(Math.abs(value) * 3);
  const whole = Math.floor(thirds / 3);
  const part = THIRDS[thirds % 3];
  if (thirds === 0) return "0";
  return `${value < 0 ? "−" : ""}${whole || !part ? whole : ""}${part}`;
}

/** Stops with their sign, in thirds where they are. */
export function signedStops(value: number): string {
  const thirds = value * 3;
  if (Math.abs(thirds - Math.round(thirds)) > 0.02) return signed(value, 2);
  return `${value > 0.1 ? "+" : ""}${stops(value)}`;
}

const DAYLIGHT = 6500; // K, of files that do not say
export const COOLEST = 20000;

/** Temperature of the light that becomes neutral, to ten kelvin: that of the shot, and warmth in
 * mired from there, so that a warmth means the same on every frame. */
export function kelvin(shot: number | null | undefined, warmth = 0): number {
  const mired = 1e6 / (shot ?? DAYLIGHT) - warmth;
  return Math.round(1e5 / Math.max(mired, 1e6 / COOLEST)) * 10;
}

/** The warmth under which a temperature becomes neutral. */
export function warmthFor(shot: number | null | undefined, wanted: number): number {
  return 1e6 / (shot ?? DAYLIGHT) - 1e6 / wanted;
}

/** An exposure index: whole, or with a tenth below 20. */
export const exposureIndex = (value: number) =>
  value < 20 ? value.toFixed(1).replace(".0", "") : String(Math.round(value));

export function seconds(value: number): string {
  return value < 10 ? value.toFixed(1) : value < 100 ? value.toFixed(1) : value.toFixed(0);
}

export function share(value: number): string {
  const percent = value * 100;
  if (percent > 0 && percent < 0.1) return "< 0.1 %";
  return `${percent < 1 && percent > 0 ? percent.toFixed(1) : Math.round(percent)} %`;
}

export function shutter(value: number): string {
  return value >= 0.4 ? `${Number(value.toFixed(1))} s` : `1/${Math.round(1 / value)} s`;
}

export function bytes(value: number): string {
  if (value < 1 << 20) return `${Math.max(1, Math.round(value / 1024))} KiB`;
  return `${(value / (1 << 20)).toFixed(1)} MiB`;
}

export const ROMAN = ["0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X"];

/** A zone to the nearest third, e.g. VI⅓. */
export function roman(zone: number): string {
  if (zone < -1 / 6) return "below 0";
  const thirds = Math.round(zone * 3);
  const whole = Math.floor(thirds / 3);
  if (whole > 10 || (whole === 10 && thirds % 3)) return "above X";
  return `${ROMAN[whole]}${THIRDS[thirds % 3]}`;
}

/** "on VI", "above X". */
export function onZone(zone: number): string {
  const name = roman(zone);
  return /^(above|below)/.test(name) ? name : `on ${name}`;
}

const NAMED: [number, string][] = [[0, ""], ...PARTS];

/** 2½ and the like; two decimals where no such part is near. */
export function withPart(value: number): string {
  const whole = Math.floor(value + 0.005);
  const part = NAMED.find(([size]) => Math.abs(value - whole - size) < 0.006)?.[1];
  if (part === undefined) return value.toFixed(2);
  return whole === 0 && part ? part : `${whole}${part}`;
}

/** A grade: 00 (at -1) to 5, with its part. */
export function gradeName(grade: number): string {
  if (grade > -0.005) return withPart(grade);
  return grade < -0.995 ? "00" : `00${withPart(grade + 1)}`;
}

export function readGrade(text: string): number {
  const plain = text.trim();
  return plain.startsWith("00") ? numberOf(plain.slice(2) || "0") - 1 : numberOf(plain);
}

/** A development as it was typed: N, N−1⅓, +1, or a plain number. */
export function readDevelopment(text: string): number {
  const plain = text.trim();
  return /^n$/i.test(plain) ? 0 : numberOf(plain.replace(/^n\s*(?=[+−–-])/i, ""));
}

export function development(n: number): string {
  return Math.abs(n) < 0.005 ? "N" : `N${n < 0 ? "−" : "+"}${withPart(Math.abs(n))}`;
}
