/** Outputs in words. */

import type { Output } from "../api/types";
import { PAPERS } from "../parts/papers";

export const FORMATS: { value: Output["format"]; text: string; about: string }[] = [
  { value: "tiff", text: "TIFF", about: "For printing and keeping" },
  { value: "png", text: "PNG", about: "Without loss, 8 or 16 bit" },
  { value: "jpeg", text: "JPEG", about: "For everywhere" },
  { value: "jxl", text: "JPEG XL", about: "Smaller than JPEG, or without loss" },
  { value: "avif", text: "AVIF", about: "Small, for web pages" },
  { value: "pdf", text: "PDF", about: "Pages at their true size" },
  { value: "exr", text: "OpenEXR", about: "Linear light or density, to go on working" },
];
/** Bits a channel that a form can have. */
export const DEPTHS: Partial<Record<Output["format"], (8 | 16)[]>> = {
  tiff: [16, 8],
  png: [16, 8],
  jxl: [16, 8],
};
export const LOSSY: Output["format"][] = ["jpeg", "jxl", "avif", "pdf"];
/** Forms that a negative for contact printing is written as. */
export const CONTACT: Output["format"][] = ["tiff", "png", "pdf"];
export const CHROMA: Output["format"][] = ["jpeg", "avif", "pdf"];
/** Forms that say by themselves whose colours they hold. */
export const PLAIN_ONLY: Output["format"][] = ["jxl", "exr"];

type SizeBy = Output["size"]["by"];
export const SIZES: { value: SizeBy; text: string; unit: string; start: number | null }[] = [
  { value: "full", text: "Full size", unit: "", start: null },
  { value: "print", text: "Print size", unit: "", start: null },
  { value: "long", text: "Long side", unit: "px", start: 2048 },
  { value: "short", text: "Short side", unit: "px", start: 1200 },
  { value: "box", text: "Within", unit: "px", start: 1920 },
  { value: "megapixels", text: "Megapixels", unit: "MP", start: 12 },
  { value: "mm", text: "Long side in mm", unit: "mm", start: 300 },
  { value: "enlargement", text: "Enlargement", unit: "×", start: 8 },
];
export const SPACES: { value: Output["space"]; text: string }[] = [
  { value: "own", text: "As the print: grey, or sRGB where it has colour" },
  { value: "grey", text: "Grey" },
  { value: "srgb", text: "sRGB" },
  { value: "display-p3", text: "Display P3" },
  { value: "romm", text: "ROMM RGB" },
];

const SPACE_NAMES: Record<Output["space"], string> = {
  own: "",
  grey: "grey",
  srgb: "sRGB",
  "display-p3": "Display P3",
  romm: "ROMM RGB",
  profile: "own profile",
};

/** The size that an output asks for, in words. */
export function sizeName({ size }: Output): string {
  const found = SIZES.find(({ value }) => value === size.by);
  if (size.value === null) return found?.text.toLowerCase() ?? "";
  if (size.by === "box") return `within ${size.value} × ${size.height} px`;
  if (size.by === "enlargement") return `${size.value} × enlarged, ${size.ppi} ppi`;
  if (size.by === "mm") return `${size.value} mm, ${size.ppi} ppi`;
  return `${size.by === "megapixels" ? "" : `${found?.text.toLowerCase()} `}${size.value} ${found?.unit}`;
}

/** What the pages of a PDF are, in words. */
function pages(page: Output["page"]): string[] {
  const paper = PAPERS.find(({ value }) => value === page.paper)?.text ?? "";
  return [
    page.lying && paper ? `${paper} lying` : paper,
    page.columns === null ? "" : `${page.columns} × ${page.rows} a page`,
    page.together ? "all in one" : "",
  ];
}

/** What an output is, in a line. */
export function summary(output: Output): string {
  const form = FORMATS.find(({ value }) => value === output.format)?.text ?? output.format;
  const bits = output.holds === "contact" ? 8 : (output.bits ?? DEPTHS[output.format]?.[0]);
  return [
    bits ? `${form} ${bits} bit` : form,
    output.holds === "negative" ? "density of the negative" : "",
    output.holds === "contact" ? "contact negative" : "",
    ...(output.format === "pdf" ? pages(output.page) : []),
    output.format === "pdf" && output.page.columns !== null ? "" : sizeName(output),
    SPACE_NAMES[output.space],
    output.mounted ? "" : "picture alone",
  ]
    .filter(Boolean)
    .join(", ");
}

/** The same output as another form of file: what that form cannot have is left. */
export function asFormat(output: Output, format: Output["format"]): Output {
  const depths = DEPTHS[format];
  const plain = PLAIN_ONLY.includes(format) && !["own", "grey", "srgb"].includes(output.space);
  return {
    ...output,
    format,
    bits: output.bits && depths?.includes(output.bits) ? output.bits : null,
    space: plain ? "own" : output.space,
    profile: plain ? null : output.profile,
    page: format === "pdf" ? output.page : { ...output.page, together: false },
    holds:
      (output.holds === "negative" && format !== "exr") ||
      (output.holds === "contact" && !CONTACT.includes(format))
        ? "print"
        : output.holds,
  };
}

const KEPT = "silvrin.output";

/** What was delivered last on this machine. */
export function lastOutput(): Output | null {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "null");
  } catch {
    return null;
  }
}

export const keepLast = (output: Output) => localStorage.setItem(KEPT, JSON.stringify(output));
