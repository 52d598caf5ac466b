/** The light path: the stations in their order, each as its tray enters it. */

import type { StationName } from "../api/client";
import { STATION_NAMES } from "../api/recipe";
import type { Station } from "./station";

const trays = import.meta.glob<{ station: Station }>("./trays/*.tsx", { eager: true });

export const STATIONS: (Station & { name: StationName })[] = STATION_NAMES.flatMap((name) => {
  const entered = trays[`./trays/${name}.tsx`]?.station;
  return entered ? [{ ...entered, name }] : [];
});
