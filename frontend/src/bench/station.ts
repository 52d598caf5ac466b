/** What a station is on the Bench. Each is entered by its own tray: `trays/NAME.tsx` exports it as
 * `station`, and `stations.ts` finds it there. */

import type { ReactNode } from "react";
import type { Facts, Frame, Reading, Recipe, Shelf } from "../api/client";
import type { Bench, Parts } from "../state/bench";

export interface StationPlot {
  facts: Facts;
  reading: Reading;
  small?: boolean;
}
type PlotOf = (props: StationPlot) => ReactNode;

export interface Station {
  title: string;
  about: string;
  /** On its card, and below its controls unless `below` says another. */
  plot?: PlotOf;
  /** The plot below the controls that are out; null for none. */
  below?: (parts: Parts) => PlotOf | null;
  /** What its card says. */
  says: (recipe: Recipe, shelf: Shelf, facts: Facts | null, frame: Frame) => string;
  Controls: () => ReactNode;
  /** What its ring-around begins with: across, and down. */
  ring?: [string, string | null];
  /** Keys of its own. */
  keys?: Record<string, (bench: Bench) => void>;
}

export const named = (list: { id: string; name: string }[], id: string) =>
  list.find((item) => item.id === id)?.name ?? id;
