/** The names of what the server sends and takes. */

import type { components } from "./schema.generated";

/** With all that has a default. */
export type Full<T> = T extends object ? { [K in keyof T]-?: Full<T[K]> } : T;

export type Schemas = components["schemas"];
export type Roll = Schemas["Roll"];
export type Frame = Schemas["Frame"];
export type ContactSheet = Schemas["ContactSheet"];
export type Mark = Frame["mark"];
export type Shelf = Schemas["Shelf"];
export type FrameFigures = Schemas["FrameFigures"];
export type Merge = Schemas["Merge"];
export type FolderImport = Schemas["FolderImport"];
export type ImportFile = Schemas["ImportFile"];
export type FolderView = Schemas["FolderView"];
export type Output = Full<Schemas["Output"]>;
export type Delivery = Omit<Full<Schemas["Delivery"]>, "output"> & { output: Output };
export type DeliveryOrder = Schemas["DeliveryOrder"];
/** A profile, and how the print goes through it. */
export type Through = Full<Schemas["PressWish"]>;
export type ProcessCurve = Schemas["ProcessCurve"];
export type KeptProcess = Schemas["KeptProcess"];
export type TargetReadings = Schemas["TargetReadings"];
export type Plan = Schemas["Plan"];
export type DryingLine = Schemas["DryingLine"];
export type LineView = { line: DryingLine; open: Delivery[]; finished: Delivery[] };
export type OutputSet = { id: string; name: string; own: boolean; outputs: Output[] };
export type OutputSets = {
  plain: Output;
  sets: OutputSet[];
  profiles: Schemas["OwnProfile"][];
  ranges: Record<string, number[]>;
};
/** Header of a picture; all curves are with the figures. */
export type LiveFrame = Omit<Schemas["LiveFrame"], "facts" | "curves"> & { facts: Facts };
export type LiveView = Schemas["LiveView"];
/** What the stations say of themselves, with their curves. */
export type Facts = Schemas["Facts"] &
  Schemas["GlassCurves"] &
  Schemas["HueCurves"] &
  Schemas["NegativeCurves"] &
  Schemas["GrainCurves"] &
  Schemas["PaperCurves"] &
  Schemas["TonerCurves"];
export type Reading = Schemas["Reading"];
export type Spot = Omit<Schemas["SpotReading"], "new_band"> & { new_band: HueBand | null };
export type SpotState = Schemas["SpotState"];
export type TestStrip = Schemas["TestStrip"];
export type HeldZones = Schemas["HeldZones"];
export type StripFacts = Schemas["StripFacts"];
export type HueBand = Full<Schemas["HueBand"]>;
export type Bath = Full<Schemas["Bath"]>;
export type Inscription = Full<Schemas["Inscription"]>;
export type Ink = Full<Schemas["Ink"]>;
export type ColourBand = Full<Schemas["ColourBand"]>;
export type TonalStop = Full<Schemas["TonalStop"]>;
export type LocalContrast = Full<Schemas["LocalContrast"]>;
export type Mend = Full<Schemas["Mend"]>;
export type Outline = Full<Schemas["Outline"]>;
export type Disc = Full<Schemas["Disc"]>;
export type Card = Full<Schemas["Card"]>;
export type Pass = Full<Schemas["Pass"]>;
export type PassShape = Pass["shapes"][number];
export type Stroke = Full<Schemas["Stroke"]>;
export type Sheet = Schemas["Sheet"];
export type Shape = Schemas["Shape"];
export type Show = LiveFrame["show"];
export type Curve = Schemas["Plot"];
export type ShelfStock = Schemas["ShelfStock"];
export type ShelfFilter = Schemas["ShelfFilter"];
export type ShelfLight = Schemas["ShelfLight"];
export type ShelfPaper = Schemas["ShelfPaper"];
export type ShelfToner = Schemas["ShelfToner"];
export type ShelfToning = Schemas["ShelfToning"];
export type Factors = Schemas["Factors"];
export type Measured = Schemas["Measured"];
export type Measurement = Schemas["Measurement"];
export type ItemFile = Schemas["ItemFile"];
export type ItemKind = ItemFile["kind"];

export type StationName = keyof Schemas["Look"];
type Part<P extends "OfFrame" | "Look", S extends StationName> = S extends keyof Schemas[P]
  ? NonNullable<Schemas[P][S]>
  : unknown;

/** Settings by station. */
export type Stations = { [S in StationName]: Full<Part<"OfFrame", S> & Part<"Look", S>> };
/** The print before a starting print, and how far the print went from there. */
export interface Mixture {
  name: string;
  strength: number;
  before: Stations;
}
/** The settings of a print, as the window works with them; see `recipe.ts`. */
export type Recipe = Stations & { mixture: Mixture | null; off: Switch[] };
/** A station, or a part of one as `station.part`. */
export type Switch = NonNullable<Schemas["WrittenRecipe"]["off"]>[number];
export type PrintEntry = Schemas["PrintEntry"];
export type PrintState = Schemas["State"];
export type KeptRecipe = Schemas["RecipeEntry"];
/** A print whose settings can be put on others. */
export type SettingsSource = Schemas["Source"];
/** A recipe whose print is near a picture that was given. */
export type FoundMatch = Omit<Schemas["FoundMatch"], "recipe"> & { recipe: Recipe };
export type Applied = Schemas["Applied"];
export type Separations = Omit<Schemas["Separations"], "parted"> & { parted: HueBand[] | null };
export type StartingPrint = Schemas["StartingPrint"];
export type WrittenRecipe = Schemas["WrittenRecipe"];

/** A print as it stands. */
export type Print = Omit<Schemas["Print"], "recipe"> & { recipe: Recipe };
