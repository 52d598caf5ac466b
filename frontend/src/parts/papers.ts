/** Sizes of paper to print on. */
export const PAPERS = [
  { value: "a5", text: "A5" },
  { value: "a4", text: "A4" },
  { value: "a3", text: "A3" },
  { value: "a2", text: "A2" },
  { value: "letter", text: "8½ × 11 in" },
  { value: "10x8", text: "10 × 8 in" },
  { value: "14x11", text: "14 × 11 in" },
  { value: "20x16", text: "20 × 16 in" },
] as const;
