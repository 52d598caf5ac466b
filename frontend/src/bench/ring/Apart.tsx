import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { api, type Separations } from "../../api/client";
import { useNotice } from "../../parts/Notice";
import { useBench, useBenchStore } from "../../state/bench";
import { share, signed } from "../../wording/format";
import { bandNames } from "../bands";
import { spotsOf } from "../spots";
import { type GivenCells, RingAround } from "./RingAround";

const SHOWN = 24;
/** Zones within which films behind one filter are as good as one: the film in use stands for them. */
const ALIKE = 0.15;
const BREAKS = 0.005; // share from which breaking up is said

/** The two spots that are to be kept apart: the chosen one and the first other. */
export function usePair(): [string, string] | null {
  const letters = useBench((bench) =>
    spotsOf(bench)
      .map((spot) => spot.letter)
      .join(""),
  );
  const selected = useBench((bench) => bench.selected);
  if (letters.length < 2) return null;
  const one = selected && letters.includes(selected) ? selected : letters[0];
  const other = [...letters].find((letter) => letter !== one);
  return one && other ? ([one, other].sort() as [string, string]) : null;
}

/** Films behind filters, by the zones that they keep two metered spots apart. */
export function Apart({ onClose }: { onClose: () => void }) {
  const tell = useNotice();
  const store = useBenchStore();
  const pair = usePair();
  const { frame, recipe, shelf } = useBench(({ frame, recipe, shelf }) => ({
    frame,
    recipe,
    shelf,
  }));
  const [first, second] = pair ?? ["A", "B"];
  const found = useQuery({
    queryKey: ["apart", frame.id, recipe, first, second],
    queryFn: () => api.separations(frame.id, recipe, first, second),
  });
  useEffect(() => {
    if (!found.error) return;
    tell(found.error);
    onClose();
  }, [found.error, tell, onClose]);
  const given = useMemo((): GivenCells | null => {
    if (!found.data) return null;
    const { pairs, band, parted, blind } = found.data;
    const name = (list: { id: string; name: string }[], id: string) =>
      list.find((item) => item.id === id)?.name ?? id;
    const same =
      band === null
        ? ""
        : ` Both lie in the hue band ${bandNames(recipe.light.hue_bands)[band]?.toLowerCase()}.`;
    const left = shelf.filters
      .map((glass) => ({
        glass: glass.name,
        stocks: blind
          .filter((b) => b.lens_filter === glass.id)
          .map((b) => name(shelf.stocks, b.stock)),
      }))
      .filter(({ stocks }) => stocks.length > 0);
    return {
      title: `Keep ${first} and ${second} apart`,
      about: `Zones from ${first} to ${second}, how sure, and what the filter costs; the farthest apart first.${same}`,
      blind: left.map(({ glass, stocks }) => `behind ${glass} ${stocks.join(", ")}`),
      action: parted
        ? {
            text: band === null ? "Give each a hue band" : "Split that band",
            title: `${first} and ${second} then have a hue band each, to be made lighter or darker`,
            does: () => {
              const { change, openStation, openPart } = store.getState();
              change("light", { hue_bands: parted }, `Hue bands for ${first} and ${second}`);
              openStation("light");
              openPart({ light: "hues" });
              onClose();
            },
          }
        : undefined,
      cells: distinct(pairs, recipe.film.stock).map((each) => ({
        across: {
          text: name(shelf.stocks, each.stock),
          now: each.stock === recipe.film.stock && each.lens_filter === recipe.light.lens_filter,
          station: "film",
          set: () => ({ stock: each.stock }),
        },
        down: {
          text: each.lens_filter === "none" ? "no filter" : name(shelf.filters, each.lens_filter),
          now: true,
          station: "light",
          set: () => ({ lens_filter: each.lens_filter, strength: 1, second_filter: "none" }),
        },
        note: [
          `${signed(each.zones)} ± ${each.unsure.toFixed(1)}`,
          each.factor >= 0.05 && `${each.factor.toFixed(1)} stops`,
          each.breaking > BREAKS && `breaks ${share(each.breaking)}`,
        ]
          .filter(Boolean)
          .join(" · "),
      })),
    };
  }, [found.data, first, second, recipe, shelf, store, onClose]);
  return given && <RingAround given={given} onClose={onClose} />;
}

/** The first of some pairs, of those that do the same behind one filter only one. */
function distinct(pairs: Separations["pairs"], stock: string) {
  const shown: Separations["pairs"] = [];
  for (const pair of pairs) {
    const like = shown.findIndex(
      (other) =>
        other.lens_filter === pair.lens_filter && Math.abs(other.zones - pair.zones) < ALIKE,
    );
    if (like < 0 && shown.length < SHOWN) shown.push(pair);
    else if (like >= 0 && pair.stock === stock) shown[like] = pair;
  }
  return shown;
}
