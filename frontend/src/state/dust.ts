/** Probable dust on the picture, while the Capture station is at spotting. */

import { createStore, useStore } from "zustand";
import { api, type Recipe, type Schemas } from "../api/client";

interface Dust {
  found: Schemas["Dust"] | null;
  /** How likely a place must be dust to be shown. */
  least: number;
  seeking: boolean;
}

const PROBABLE = 0.3;
const store = createStore<Dust>()(() => ({ found: null, least: PROBABLE, seeking: false }));

export const useDust = () => useStore(store);

export const sureSpecks = ({ found, least }: Dust) =>
  found?.specks.filter((s) => s.likely >= least) ?? [];

export const dust = {
  least: (least: number) => store.setState({ least }),
  drop: () => store.setState({ found: null }),
  seek: (frame: number, recipe: Recipe, tell: (error: unknown) => void) => {
    store.setState({ seeking: true });
    api
      .findDust(frame, recipe)
      .then((found) => store.setState({ found }), tell)
      .finally(() => store.setState({ seeking: false }));
  },
  /** These are mended now. */
  without: (specks: Schemas["FoundSpeck"][]) =>
    store.setState(({ found }) => ({
      found: found && { ...found, specks: found.specks.filter((s) => !specks.includes(s)) },
    })),
};
