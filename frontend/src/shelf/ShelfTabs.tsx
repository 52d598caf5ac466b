import { useLocation } from "wouter";
import { Segments } from "../parts/Segments";

const KINDS = [
  { value: "stock", text: "Films" },
  { value: "filter", text: "Filters" },
  { value: "light", text: "Lights" },
  { value: "paper", text: "Papers" },
  { value: "toning", text: "Toners" },
  { value: "contact", text: "Contact" },
] as const;
type ShelfTab = (typeof KINDS)[number]["value"];

/** What is on the shelf, a kind a tab. */
export function ShelfTabs({ tab }: { tab: ShelfTab }) {
  const [, go] = useLocation();
  return (
    <Segments
      label="Kind"
      value={tab}
      onChange={(next) => go(next === "contact" ? "/contact" : `/shelf?kind=${next}`)}
      options={KINDS}
    />
  );
}
