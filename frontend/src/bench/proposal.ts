/** What is proposed for the print, or for one of its stations. */

import { useState } from "react";
import { api, type StationName } from "../api/client";
import { withFields } from "../api/recipe";
import { useBenchStore } from "../state/bench";

export const PROPOSED = "Proposed: ";

/** Proposes for all stations, or for one; and whether that is under way. */
export function usePropose() {
  const store = useBenchStore();
  const [busy, setBusy] = useState(false);
  const propose = async (only: StationName | null = null) => {
    const { frame, recipe, put, tell } = store.getState();
    setBusy(true);
    try {
      const { settings, says } = await api.propose(frame.id, recipe, only);
      let proposed = recipe;
      for (const [name, fields] of Object.entries(settings)) {
        const station = name as StationName;
        // of the print as it is set; where it is a mixture, the print before stays
        proposed = only
          ? withFields(proposed, station, fields)
          : { ...proposed, [station]: { ...proposed[station], ...fields } };
      }
      put(proposed, `proposal ${only ?? ""}`, `${PROPOSED}${says}`);
    } catch (error) {
      tell(error);
    } finally {
      setBusy(false);
    }
  };
  return { propose, busy };
}
