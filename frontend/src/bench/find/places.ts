/** Everything that can be found from the Bench, and how one gets there. */

import {
  fieldOf,
  type KeptRecipe,
  type RecipeSchema,
  type Shelf,
  type StartingPrint,
  type StationName,
} from "../../api/client";
import { PARTS, STATION_NAMES } from "../../api/recipe";
import type { Bench, Parts } from "../../state/bench";
import { PART_TITLES } from "../parts";
import { STATIONS } from "../stations";
import { SYNONYMS } from "./words";

export interface Place {
  id: string;
  title: string;
  /** Where it stands. */
  at: string;
  /** Further words it is found by. */
  words: string;
  /** What is done on the Bench; an address is gone to. */
  go: ((bench: Bench) => Partial<Bench> | null) | string;
}

const toPart = (station: StationName, part: string, lit: string) => (bench: Bench) => {
  bench.openStation(station);
  bench.openPart({ [station]: part } as Partial<Parts>);
  return { lit, along: null, alone: false, history: false, folded: false };
};

/** Fields whose sliders are out only while their handles are. */
const HANDLES = { zone_lift: true, zone_contrast: true };

/** The controls of all stations, in the order of the light path. */
function controls(schema: RecipeSchema): Place[] {
  return STATION_NAMES.flatMap((station) => {
    const title = STATIONS.find((each) => each.name === station)?.title ?? station;
    return Object.entries(PARTS[station]).flatMap(([part, fields]) => {
      const called = (PART_TITLES[station] as Record<string, string>)[part] ?? "";
      return fields.map((name): Place => {
        const field = fieldOf(schema, station, name);
        const id = `${station}.${name}`;
        return {
          id,
          title: field.title,
          at: `${title} › ${called}`,
          words: `${SYNONYMS[id] ?? ""} ${field.description ?? ""} ${called}`,
          go: (bench) => ({
            ...toPart(station, part, id)(bench),
            ...(name in HANDLES && { handles: name as Bench["handles"] }),
          }),
        };
      });
    });
  });
}

/** What lies on the shelf, found where it is chosen. */
function items(shelf: Shelf): Place[] {
  const named = (
    list: { id: string; name: string; about?: string }[],
    [station, part, field]: [StationName, string, string],
    at: string,
    more: string,
  ) =>
    list.map(
      (item): Place => ({
        id: `${station}.${field}.${item.id}`,
        title: item.name,
        at,
        words: `${more} ${item.about ?? ""}`,
        go: toPart(station, part, `${station}.${field}`),
      }),
    );
  return [
    ...named(shelf.filters, ["light", "glass", "lens_filter"], "Light › Lens filters", "filter"),
    ...named(shelf.lights, ["light", "glass", "source"], "Light › Light", "lamp light"),
    ...named(shelf.stocks, ["film", "stock", "stock"], "Film › Stock", "film stock"),
    ...named(shelf.papers, ["paper", "paper", "paper"], "Paper › Paper", "paper"),
  ];
}

const toTool = (station: StationName, part: string, then: (bench: Bench) => Partial<Bench>) =>
  ((bench: Bench) => ({ ...toPart(station, part, "")(bench), ...then(bench), lit: null })) as (
    bench: Bench,
  ) => Partial<Bench>;

const TOOLS: Omit<Place, "id">[] = [
  {
    title: "Meter",
    at: "Zone staff",
    words: "spot measure zone place exposure",
    go: ({ take }) => {
      take({ kind: "meter" });
      return null;
    },
  },
  {
    title: "Pull hues on the picture",
    at: "Light › Hue bands",
    words: "drag colour target sky darker",
    go: toTool("light", "hues", ({ take }) => {
      take({ kind: "hues" });
      return {};
    }),
  },
  {
    title: "Dodge and burn",
    at: "Enlarger › Printing map",
    words:
      "local lighten darken brush card disc pass vignette edge gradient mask sky foliage alike",
    go: toPart("enlarger", "map", "enlarger.passes"),
  },
  {
    title: "Test strip",
    at: "Enlarger › Exposure",
    words: "trial exposures times seconds",
    go: toPart("enlarger", "exposure", "enlarger.strip"),
  },
  {
    title: "Contrast strip",
    at: "Paper › Paper, grade",
    words: "trial grades test strip",
    go: toPart("paper", "paper", "paper.strip"),
  },
  {
    title: "Ring-around",
    at: "Every station",
    words: "variations compare small prints grid",
    go: () => ({ dialog: "ring" }),
  },
  {
    title: "Starting prints",
    at: "Along the picture",
    words: "looks styles presets begin",
    go: () => ({ along: "starting", trial: null, alone: false }),
  },
  {
    title: "Recipes",
    at: "Under the picture",
    words: "save settings preset apply batch copy paste keep",
    go: () => ({ dialog: "recipes" }),
  },
  {
    title: "Put settings on this print",
    at: "Recipes",
    words: "paste copy apply as the last print batch sync",
    go: () => ({ dialog: "apply" }),
  },
  {
    title: "Match a print",
    at: "Under the picture",
    words: "reference copy tones of another picture scan darkroom histogram tint paper",
    go: () => ({ dialog: "match" }),
  },
  {
    title: "Keep A and B apart",
    at: "Zone staff",
    words: "separation filters films two tones contrast of colours",
    go: (bench) => {
      if (bench.recipe.film.spots.length > 1) return { dialog: "apart" };
      bench.take({ kind: "meter" });
      return null;
    },
  },
  {
    title: "History and proofs",
    at: "Left of the picture",
    words: "undo states versions snapshots",
    go: () => ({ history: true, trial: null, alone: false }),
  },
  {
    title: "Wipe",
    at: "Compare",
    words: "before after split compare original",
    go: () => ({ comparing: "wipe" }),
  },
  {
    title: "Side by side",
    at: "Compare",
    words: "before after compare original",
    go: () => ({ comparing: "side" }),
  },
  {
    title: "Proof",
    at: "Over the picture",
    words: "soft proof paper white wall viewing",
    go: () => ({ shown: { kind: "proof" } }),
  },
  {
    title: "Zone plate",
    at: "Under the picture",
    words: "zones false tones posterise",
    go: () => ({ shown: { kind: "plate" } }),
  },
  {
    title: "Picture alone",
    at: "Whole window",
    words: "full screen hide panels",
    go: () => ({ alone: true, along: null }),
  },
  {
    title: "100 %",
    at: "Over the picture",
    words: "zoom pixels full size",
    go: () => ({ zoom: "full" }),
  },
  {
    title: "Printing notes",
    at: "Enlarger › Printing map",
    words: "PDF map print seconds darkroom page",
    go: () => ({ dialog: "notes" }),
  },
  {
    title: "Carry passes to other frames",
    at: "Enlarger › Printing map",
    words: "copy dodge burn local frames",
    go: () => ({ dialog: "carry" }),
  },
  {
    title: "Deliver",
    at: "Over the picture",
    words: "export save file TIFF JPEG PNG output",
    go: () => ({ dialog: "deliver" }),
  },
  {
    title: "Screen check",
    at: "Proof",
    words: "monitor calibration display black white",
    go: () => ({ dialog: "screen" }),
  },
  {
    title: "Keys",
    at: "Whole Bench",
    words: "keyboard shortcuts help",
    go: () => ({ dialog: "keys" }),
  },
];

/** All of it, as it stands now. */
export const placesOf = (
  { schema, shelf, frame }: Pick<Bench, "schema" | "shelf" | "frame">,
  starts: StartingPrint[],
  recipes: KeptRecipe[],
): Place[] => [
  ...controls(schema),
  ...TOOLS.map((tool) => ({ ...tool, id: tool.title })),
  {
    id: "sheet",
    title: "Contact sheet",
    at: "Screen",
    words: "roll frames thumbnails library",
    go: `/roll/${frame.roll_id}`,
  },
  {
    id: "shelf",
    title: "Shelf",
    at: "Screen",
    words: "films filters lights measure own stock curve densitometer",
    go: "/shelf",
  },
  ...starts.map(
    ({ id, name, group, about }): Place => ({
      id: `start.${id}`,
      title: name,
      at: `Starting print › ${group}`,
      words: about,
      go: () => ({ along: "starting", lit: `start.${id}`, trial: null, alone: false }),
    }),
  ),
  ...recipes
    .filter((recipe) => !recipe.binned)
    .map(
      ({ id, name, group, note }): Place => ({
        id: `recipe.${id}`,
        title: name,
        at: group ? `Recipe › ${group}` : "Recipe",
        words: note,
        go: () => ({ dialog: "recipes" }),
      }),
    ),
  ...items(shelf),
];

/** How well words fit a place: 0 is not at all. All of them must be found somewhere. */
function fit(place: Place, words: string[]): number {
  const title = place.title.toLowerCase();
  const rest = `${place.at} ${place.words}`.toLowerCase();
  const first = place.words.trim().toLowerCase(); // what else it is called most
  let sum = 0;
  for (const word of words) {
    const begins = (text: string) =>
      text.split(/[^\p{L}\p{N}+−-]+/u).some((w) => w.startsWith(word));
    const found =
      title === word
        ? 5
        : title.startsWith(word)
          ? 4
          : begins(title)
            ? 3
            : first.startsWith(word)
              ? 2
              : begins(rest)
                ? 1
                : 0;
    if (!found) return 0;
    sum += found;
  }
  return sum / words.length;
}

/** What some words may mean, the best first. */
export function fitting(places: Place[], text: string): Place[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  return places
    .map((place, order) => ({ place, order, fits: fit(place, words) }))
    .filter(({ fits }) => fits > 0)
    .sort((a, b) => b.fits - a.fits || a.order - b.order)
    .map(({ place }) => place);
}
