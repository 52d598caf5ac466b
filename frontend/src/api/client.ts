import type { PicturePlace } from "../bench/places";
import { kept, loadSheets } from "../state/sheets";
import { ask, picture, pictured, problemFrom, SILENT } from "./http";
import { joined, type RecipeSchema, sending } from "./recipe";
import type {
  ContactSheet,
  Delivery,
  DeliveryOrder,
  Factors,
  FolderImport,
  FolderView,
  FoundMatch,
  Frame,
  FrameFigures,
  HueBand,
  ImportFile,
  Ink,
  ItemFile,
  ItemKind,
  KeptProcess,
  KeptRecipe,
  LineView,
  Mark,
  Measured,
  Measurement,
  Merge,
  OutputSet,
  OutputSets,
  Plan,
  Print,
  ProcessCurve,
  Recipe,
  Roll,
  Schemas,
  Separations,
  SettingsSource,
  Sheet,
  Shelf,
  Spot,
  StartingPrint,
  StationName,
  TargetReadings,
} from "./types";

export { Problem } from "./http";
export { type Field, fieldOf, fieldOfKind, itemOf, type RecipeSchema, within } from "./recipe";
export type * from "./types";

/** A print with its recipe by station, and what is on the sheets it names at hand. */
async function opened(print: Schemas["Print"]): Promise<Print> {
  const recipe = joined(print.recipe);
  await loadSheets(recipe);
  return { ...print, recipe };
}

/** A small print: a picture's address, which must be revoked, and a mark that alike ones share. */
export interface SmallPrint {
  address: string;
  mark: string;
  /** Behind its glass the film sees nothing. */
  blind: boolean;
}

/** A small print of a frame under a recipe. */
export async function smallPrint(
  frame: number,
  recipe: Recipe,
  longSide: number,
  signal: AbortSignal,
): Promise<SmallPrint> {
  const wanted = { ...sending(recipe), long_side: longSide };
  const response = await pictured(`/frames/${frame}/small-print`, wanted, signal);
  const blob = await response.blob();
  const digest = await crypto.subtle.digest("SHA-256", await blob.arrayBuffer());
  return {
    address: URL.createObjectURL(blob),
    mark: new Uint8Array(digest).join(),
    blind: response.headers.has("silvrin-blind"),
  };
}

/** Gives a file to the server, and hears what it is. */
async function given<T>(address: string, file: File, more: object = {}): Promise<T> {
  const asked = new URLSearchParams({ name: file.name, ...more });
  const response = await fetch(`/api${address}?${asked}`, {
    method: "POST",
    headers: { "content-type": "application/octet-stream" },
    body: file,
  }).catch(() => {
    throw SILENT;
  });
  if (!response.ok) throw problemFrom(await response.text(), response.status);
  return response.json();
}

/** Gives a finished picture that prints can be matched to. */
export const giveReference = (file: File) => given<Schemas["GivenReference"]>("/references", file);

/** Puts an ICC profile on the shelf. */
export const addProfile = (file: File) => given<Schemas["OwnProfile"]>("/profiles", file);

/** Densities of a target of contact printing in a picture of its print. */
export const photographed = (file: File, steps: number) =>
  given<number[]>("/contact/photograph", file, { steps });

/** The reference of a bracket with what moved, as a picture's address; it must be revoked. */
export const movedPicture = async (bracket: Schemas["Bracket"], signal: AbortSignal) =>
  URL.createObjectURL(await picture("/merges/moved", bracket, signal));

export const api = {
  densitometers: () => ask<Schemas["DensitometerEntry"][]>("GET", "/densitometers"),
  zero: (device: string, under: Schemas["Under"]) =>
    ask<Schemas["ReadingEntry"]>("POST", `/densitometers/${device}/zero`, under),
  reading: (device: string, under: Schemas["Under"]) =>
    ask<Schemas["ReadingEntry"]>("POST", `/densitometers/${device}/read`, under),
  /** The ink of a picture of a signature. */
  ink: (file: File) => given<Ink>("/inks", file),
  rolls: () => ask<Roll[]>("GET", "/rolls"),
  makeRoll: (name: string) => ask<Roll>("POST", "/rolls", { name }),
  renameRoll: (id: number, name: string) => ask<Roll>("PATCH", `/rolls/${id}`, { name }),
  binRoll: (id: number) => ask<null>("DELETE", `/rolls/${id}`),
  markAll: (frames: number[], mark: Mark) => ask<null>("POST", "/frames/mark", { frames, mark }),
  moveFrames: (frames: number[], roll_id: number) =>
    ask<Schemas["Staying"]>("POST", "/frames/move", { frames, roll_id }),
  binFrames: (frames: number[]) => ask<null>("POST", "/frames/bin", { frames }),
  restoreFrames: (frames: number[]) => ask<null>("POST", "/frames/restore", { frames }),
  binned: () => ask<Frame[]>("GET", "/bin"),
  emptyBin: (originals: boolean) => ask<null>("DELETE", `/bin?originals=${originals}`),
  tags: (id: number) => ask<Schemas["Tag"][]>("GET", `/frames/${id}/tags`),
  imports: () => ask<FolderImport[]>("GET", "/imports"),
  takeFolder: (order: Schemas["ImportOrder"]) => ask<FolderImport>("POST", "/imports", order),
  importFiles: (id: number) => ask<ImportFile[]>("GET", `/imports/${id}/files`),
  cancelImport: (id: number) => ask<FolderImport>("DELETE", `/imports/${id}`),
  resumeImport: (id: number) => ask<FolderImport>("POST", `/imports/${id}/resume`),
  folder: (path: string | null) =>
    ask<FolderView>("GET", `/folders${path ? `?path=${encodeURIComponent(path)}` : ""}`),
  findLost: (folder: string) => ask<Schemas["Found"]>("POST", "/lost/find", { folder }),
  contactSheet: (roll: number, search: string, order: string) => {
    const asked = new URLSearchParams({ ...(search && { search }), ...(order && { order }) });
    return ask<ContactSheet>("GET", `/rolls/${roll}/sheet${asked.size ? `?${asked}` : ""}`);
  },
  someFrames: (ids: number[]) =>
    ask<Frame[]>("GET", `/frames?${ids.map((id) => `ids=${id}`).join("&")}`),
  figures: (id: number, region: string) =>
    ask<FrameFigures>("GET", `/frames/${id}/figures?${region}`),
  brackets: (roll: number) => ask<number[][]>("GET", `/rolls/${roll}/brackets`),
  leaveBracket: (roll: number, frames: number[]) =>
    ask<null>("DELETE", `/rolls/${roll}/brackets?${frames.map((f) => `frames=${f}`).join("&")}`),
  merges: () => ask<Merge[]>("GET", "/merges"),
  madeFrom: (frame: number) => ask<Schemas["Bracket"]>("GET", `/frames/${frame}/bracket`),
  merge: (order: Schemas["MergeOrder"]) => ask<Merge>("POST", "/merges", order),
  mergeState: (id: number) => ask<Merge>("GET", `/merges/${id}`),
  cancelMerge: (id: number) => ask<Merge>("DELETE", `/merges/${id}`),
  frame: (id: number) => ask<Frame>("GET", `/frames/${id}`),
  mark: (id: number, mark: Mark) => ask<Frame>("PATCH", `/frames/${id}`, { mark }),
  spot: (frame: number, { x, y }: PicturePlace, recipe: Recipe, radius?: number) =>
    ask<Spot>("POST", `/frames/${frame}/spot`, { x, y, radius, ...sending(recipe) }),
  level: (frame: number, recipe: Recipe, lines: [number, number][][]) =>
    ask<Schemas["Levelled"]>("POST", `/frames/${frame}/level`, { lines, ...sending(recipe) }),
  lensesOf: (frame: number) => ask<Schemas["LensName"][]>("GET", `/frames/${frame}/lenses`),
  searchLenses: (words: string) =>
    ask<Schemas["LensName"][]>("GET", `/lenses?words=${encodeURIComponent(words)}`),
  lensProfile: (frame: number, lens: Schemas["WantedLens"]) =>
    ask<Schemas["LensProfile"]>("POST", `/frames/${frame}/lens`, lens),
  findDust: (frame: number, recipe: Recipe) =>
    ask<Schemas["Dust"]>("POST", `/frames/${frame}/dust`, sending(recipe)),
  carryDust: (frame: number, recipe: Recipe) =>
    ask<Schemas["Carried"]>("POST", `/frames/${frame}/dust-map`, sending(recipe)),
  development: (stock: string, zone: number, target: number, developer: string) =>
    ask<Schemas["DevelopmentProposal"]>(
      "GET",
      `/shelf/stocks/${stock}/development?${new URLSearchParams({
        zone: String(zone),
        target: String(target),
        developer,
      })}`,
    ),
  placing: (frame: number, recipe: Recipe, spot: Schemas["SpotState"], zone: number) =>
    ask<Schemas["FoundPlacing"]>("POST", `/frames/${frame}/placing`, {
      x: spot.x,
      y: spot.y,
      radius: spot.radius,
      zone,
      ...sending(recipe),
    }),
  printPoints: (frame: number, recipe: Recipe, black: number, white: number) =>
    ask<Schemas["PrintPoints"]>("POST", `/frames/${frame}/print-points`, {
      black,
      white,
      ...sending(recipe),
    }),
  makePrint: (frame: number, name: string) =>
    ask<Schemas["Print"]>("POST", `/frames/${frame}/prints`, { name, propose: true }).then(opened),
  propose: (frame: number, recipe: Recipe, only: StationName | null) =>
    ask<Schemas["ProposedPrint"]>("POST", `/frames/${frame}/proposal`, {
      only,
      ...sending(recipe),
    }),
  match: async (frame: number, recipe: Recipe, reference: string): Promise<FoundMatch> => {
    const wanted = { reference, ...sending(recipe) };
    const found = await ask<Schemas["FoundMatch"]>("POST", `/frames/${frame}/match`, wanted);
    return { ...found, recipe: joined(found.recipe) };
  },
  hueBands: (frame: number, recipe: Recipe, even: number | null) =>
    ask<{ bands: HueBand[] }>("POST", `/frames/${frame}/hue-bands`, { even, ...sending(recipe) }),
  printsOf: (frame: number) => ask<Schemas["PrintEntry"][]>("GET", `/frames/${frame}/prints`),
  orderPrints: (frame: number, prints: number[]) =>
    ask<null>("PUT", `/frames/${frame}/prints`, { prints }),
  copyPrint: (id: number, name: string) =>
    ask<Schemas["Print"]>("POST", `/prints/${id}/copy`, { name }),
  renamePrint: (id: number, name: string) => ask<null>("PATCH", `/prints/${id}`, { name }),
  choosePrint: (id: number) => ask<null>("POST", `/prints/${id}/choose`),
  binPrint: (id: number) => ask<null>("DELETE", `/prints/${id}`),
  restorePrint: (id: number) => ask<null>("POST", `/prints/${id}/restore`),
  history: (id: number) => ask<Schemas["State"][]>("GET", `/prints/${id}/history`),
  state: async (id: number, state: number): Promise<Recipe> => {
    const found = await ask<Schemas["StateRecipe"]>("GET", `/prints/${id}/states/${state}`);
    const recipe = joined(found.recipe);
    await loadSheets(recipe);
    return recipe;
  },
  go: (id: number, base: number, state: number) =>
    ask<Schemas["Print"]>("POST", `/prints/${id}/go`, { base, state }).then(opened),
  keepProof: (id: number, state: number, name: string | null) =>
    ask<null>("PUT", `/prints/${id}/states/${state}/proof`, { name }),
  recipes: () => ask<KeptRecipe[]>("GET", "/recipes"),
  keepRecipe: (of: Schemas["NewRecipe"]) => ask<KeptRecipe>("POST", "/recipes", of),
  renameRecipe: (id: number, to: Schemas["Naming"]) => ask<KeptRecipe>("PUT", `/recipes/${id}`, to),
  updateRecipe: (id: number, print_id: number) =>
    ask<KeptRecipe>("POST", `/recipes/${id}/update`, { print_id }),
  binRecipe: (id: number) => ask<null>("DELETE", `/recipes/${id}`),
  restoreRecipe: (id: number) => ask<null>("POST", `/recipes/${id}/restore`),
  /** Of a recipe file as it is; what is wrong with it is said by the server. */
  takeRecipe: async (file: File) => {
    const path = `/api/recipes/file?name=${encodeURIComponent(file.name.slice(0, 120))}`;
    const answer = await fetch(path, { method: "POST", body: file });
    if (!answer.ok) throw problemFrom(await answer.text(), answer.status);
    return (await answer.json()) as KeptRecipe;
  },
  lastPrint: () => ask<SettingsSource>("GET", "/last-print"),
  settingsOf: (print: number) => ask<SettingsSource>("GET", `/prints/${print}/settings`),
  apply: (wanted: Schemas["Applying"]) =>
    ask<Schemas["Application"]>("POST", "/applications", wanted),
  takeBack: (application: number) =>
    ask<Schemas["Applied"][]>("POST", `/applications/${application}/undo`),
  under: async (frame: number, recipe_id: number, recipe: Recipe, signal: AbortSignal) => {
    const of = `/frames/${frame}/recipes/${recipe_id}`;
    const found = await ask<Schemas["Begun"]>("POST", of, sending(recipe), signal);
    return { says: found.says, recipe: joined(found.recipe) };
  },
  separations: (frame: number, recipe: Recipe, first: string, second: string) =>
    ask<Separations>("POST", `/frames/${frame}/separations`, {
      first,
      second,
      ...sending(recipe),
    }),
  ringed: () => ask<string[]>("GET", "/ringed"),
  ring: (name: string, on: boolean) => ask<null>("PUT", `/ringed/${name}`, { on }),
  startingPrints: () => ask<StartingPrint[]>("GET", "/starting-prints"),
  begin: async (frame: number, start: string, recipe: Recipe, signal: AbortSignal) => {
    const of = `/frames/${frame}/starting-prints/${start}`;
    const found = await ask<Schemas["Begun"]>("POST", of, sending(recipe), signal);
    return { says: found.says, recipe: joined(found.recipe) };
  },
  print: (id: number) => ask<Schemas["Print"]>("GET", `/prints/${id}`).then(opened),
  change: async (id: number, base: number, label: string, recipe: Recipe) => {
    const sent = sending(recipe);
    const print = await ask<Schemas["Print"]>("POST", `/prints/${id}/changes`, {
      base,
      label,
      ...sent,
    });
    kept(sent.sheets);
    return opened(print);
  },
  carryPasses: (id: number, wanted: Schemas["Carrying"]) =>
    ask<Schemas["CarriedPasses"][]>("POST", `/prints/${id}/carry-passes`, wanted),
  undo: (id: number, base: number) =>
    ask<Schemas["Print"]>("POST", `/prints/${id}/undo`, { base }).then(opened),
  redo: (id: number, base: number) =>
    ask<Schemas["Print"]>("POST", `/prints/${id}/redo`, { base }).then(opened),
  sheet: (name: string) => ask<Sheet>("GET", `/sheets/${name}`),
  shelf: () => ask<Shelf>("GET", "/shelf"),
  factors: (stock: string) => ask<Factors>("GET", `/shelf/stocks/${stock}/factors`),
  item: (kind: ItemKind, id: string) => ask<ItemFile>("GET", `/shelf/${kind}/${id}/file`),
  addItem: (file: ItemFile) => ask<ItemFile>("POST", "/shelf/items", file),
  changeItem: (id: string, file: ItemFile) => ask<ItemFile>("PUT", `/shelf/items/${id}`, file),
  removeItem: (id: string, thoughUsedBefore: boolean) =>
    ask<null>("DELETE", `/shelf/items/${id}?though_used_before=${thoughUsedBefore}`),
  measure: (given: Measurement) => ask<Measured>("POST", "/shelf/measurements", given),
  recipeSchema: () => ask<RecipeSchema>("GET", "/recipe-schema"),
  deliver: (order: DeliveryOrder) => ask<Delivery[]>("POST", "/deliveries", order),
  planned: (order: DeliveryOrder, signal?: AbortSignal) =>
    ask<Plan>("POST", "/deliveries/plan", order, signal),
  dryingLine: () => ask<LineView>("GET", "/deliveries"),
  driedBefore: (id: number) => ask<LineView>("GET", `/deliveries?before=${id}`),
  takeOff: (id: number) => ask<Delivery>("DELETE", `/deliveries/${id}`),
  cancelDeliveries: () => ask<null>("DELETE", "/deliveries/waiting"),
  clearFinished: () => ask<null>("DELETE", "/deliveries/finished"),
  retryDelivery: (id: number) => ask<Delivery>("POST", `/deliveries/${id}/retry`),
  deliverAgain: (id: number) => ask<Delivery>("POST", `/deliveries/${id}/again`),
  reveal: (id: number) => ask<null>("POST", `/deliveries/${id}/reveal`),
  outputSets: () => ask<OutputSets>("GET", "/output-sets"),
  keepSet: (set: Schemas["KeptSet"]) => ask<OutputSet>("POST", "/output-sets", set),
  processes: () => ask<KeptProcess[]>("GET", "/contact/processes"),
  process: (id: number) => ask<ProcessCurve>("GET", `/contact/processes/${id}`),
  fitProcess: (given: TargetReadings) => ask<ProcessCurve | null>("POST", "/contact/fit", given),
  keepProcess: (given: TargetReadings) => ask<KeptProcess>("POST", "/contact/processes", given),
  removeProcess: (id: number) => ask<null>("DELETE", `/contact/processes/${id}`),
  removeSet: (id: string) => ask<null>("DELETE", `/output-sets/${id}`),
};

export const deliveredUrl = (id: number, how: "download" | "inline" | "small") =>
  how === "small"
    ? `/api/deliveries/${id}/small`
    : `/api/deliveries/${id}/file${how === "inline" ? "?inline=true" : ""}`;

/** The printing notes of a print's present state, on another base time too. */
export const notesUrl = (
  print: Pick<Print, "id" | "head">,
  kind: "pdf" | "svg",
  base: number | null,
) =>
  `/api/prints/${print.id}/notes.${kind}?${new URLSearchParams({
    at: String(print.head),
    ...(base !== null && { base: String(base) }),
  })}`;

/** The data sheet of a print's present state. */
export const dataSheetUrl = (print: Pick<Print, "id" | "head">, kind: "pdf" | "svg") =>
  `/api/prints/${print.id}/data-sheet.${kind}?at=${print.head}`;

export const thumbnailUrl = (frame: Frame, printed: boolean) => {
  const of = `/api/frames/${frame.id}/thumbnail`;
  // all that a print depends on is in its address, so that it may be kept
  if (!printed) return `${of}?show=colour&of=${frame.sha256.slice(0, 12)}`;
  return `${of}?show=print&at=${chosenOf(frame)?.head ?? 0}&shelf=${frame.edition}`;
};

/** The print of a frame that the contact sheet shows. */
export const chosenOf = ({ prints, chosen }: Pick<Frame, "prints" | "chosen">) =>
  prints.find((print) => print.id === chosen);

/** The small picture of a state of a print. */
export const stateUrl = (print: number, state: number, edition: number) =>
  `/api/prints/${print}/states/${state}/thumbnail?shelf=${edition}`;

/** Sends a file as it is; `onShare` hears what part has left (1: all sent, now being looked over).
 * Gives the frame, and whether the roll had it already. */
export function sendCapture(
  roll: number,
  file: File,
  onShare: (share: number) => void,
  asPicture = false,
): Promise<{ frame: Frame; known: boolean; print: number | null }> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const name = encodeURIComponent(file.name);
    request.open("POST", `/api/rolls/${roll}/frames?name=${name}&as_picture=${asPicture}`);
    request.setRequestHeader("content-type", "application/octet-stream");
    request.upload.onprogress = (event) => onShare(event.loaded / Math.max(event.total, 1));
    request.onload = () =>
      request.status < 300
        ? resolve({
            frame: JSON.parse(request.responseText),
            known: request.status === 200,
            print: Number(request.getResponseHeader("silvrin-print")) || null,
          })
        : reject(problemFrom(request.responseText, request.status));
    request.onerror = () => reject(SILENT);
    request.send(file);
  });
}
