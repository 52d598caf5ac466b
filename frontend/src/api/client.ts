import type { components } from "./schema.generated";

export type Schemas = components["schemas"];
export type Roll = Schemas["Roll"];
export type Frame = Schemas["Frame"];
export type Mark = Frame["mark"];
export type Print = Schemas["Print"];
export type Recipe = Required<Schemas["Recipe"]>;
export type Shelf = Schemas["Shelf"];
export type FrameFigures = Schemas["FrameFigures"];
export type Merge = Schemas["Merge"];
export type FolderImport = Schemas["FolderImport"];
export type ImportFile = Schemas["ImportFile"];
export type FolderView = Schemas["FolderView"];
export type Delivery = Schemas["Delivery"];
export type DeliveryOrder = Schemas["DeliveryOrder"];
export type LiveFrame = Schemas["LiveFrame"];
export type LiveView = Schemas["LiveView"];
export type Facts = Schemas["Facts"];
export type Reading = Schemas["Reading"];
export type Spot = Schemas["SpotReading"];
export type SpotState = Schemas["SpotState"];
export type TestStrip = Schemas["TestStrip"];
export type HeldZones = Schemas["HeldZones"];
export type StripFacts = Schemas["StripFacts"];
export type HueBand = Schemas["HueBand"];
export type LocalContrast = Schemas["LocalContrast"];
export type Show = LiveFrame["show"];
export type Curve = Schemas["Plot"];
export type ShelfStock = Schemas["ShelfStock"];
export type ShelfFilter = Schemas["ShelfFilter"];
export type ShelfLight = Schemas["ShelfLight"];
export type Factors = Schemas["Factors"];
export type Measured = Schemas["Measured"];
export type Measurement = Schemas["Measurement"];
export type ItemFile = Schemas["ItemFile"];
export type ItemKind = ItemFile["kind"];

/** An error the server explained (RFC 9457), or the lack of a server. */
export class Problem extends Error {
  readonly title: string;
  readonly status: number;

  constructor(title: string, detail: string, status: number) {
    super(detail);
    this.title = title;
    this.status = status;
  }
}

const SILENT = new Problem(
  "Silvrin does not answer",
  "The program behind this window has stopped. Start it again; nothing you did is lost.",
  0,
);

export function problemFrom(text: string, status: number): Problem {
  try {
    const body = JSON.parse(text);
    return new Problem(body.title ?? "That did not work", body.detail ?? text, status);
  } catch {
    return new Problem("That did not work", text || `The server answered ${status}.`, status);
  }
}

async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      keepalive: method !== "GET",
      headers: body === undefined ? undefined : { "content-type": "application/json" },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw SILENT;
  }
  if (!response.ok) throw problemFrom(await response.text(), response.status);
  return response.status === 204 ? (null as T) : response.json();
}

/** A picture that is made as asked, as its address; it must be revoked. */
async function picture(path: string, body: unknown, signal: AbortSignal): Promise<string> {
  const response = await fetch(`/api${path}`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
    signal,
  });
  if (!response.ok) throw problemFrom(await response.text(), response.status);
  return URL.createObjectURL(await response.blob());
}

/** A small print of a frame under a recipe, as a picture's address; it must be revoked. */
export const smallPrint = (frame: number, recipe: Recipe, longSide: number, signal: AbortSignal) =>
  picture(`/frames/${frame}/small-print`, { recipe, long_side: longSide }, signal);

/** The reference of a bracket with what moved, as a picture's address; it must be revoked. */
export const movedPicture = (bracket: Schemas["Bracket"], signal: AbortSignal) =>
  picture("/merges/moved", bracket, signal);

export const api = {
  rolls: () => ask<Roll[]>("GET", "/rolls"),
  makeRoll: (name: string) => ask<Roll>("POST", "/rolls", { name }),
  renameRoll: (id: number, name: string) => ask<Roll>("PATCH", `/rolls/${id}`, { name }),
  binRoll: (id: number) => ask<null>("DELETE", `/rolls/${id}`),
  markAll: (frames: number[], mark: Mark) => ask<null>("POST", "/frames/mark", { frames, mark }),
  moveFrames: (frames: number[], roll_id: number) =>
    ask<null>("POST", "/frames/move", { frames, roll_id }),
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
  frames: (roll: number) => ask<Frame[]>("GET", `/rolls/${roll}/frames`),
  figures: (id: number, region: string) =>
    ask<FrameFigures>("GET", `/frames/${id}/figures?${region}`),
  brackets: (roll: number) => ask<number[][]>("GET", `/rolls/${roll}/brackets`),
  merges: () => ask<Merge[]>("GET", "/merges"),
  madeFrom: (frame: number) => ask<Schemas["Bracket"]>("GET", `/frames/${frame}/bracket`),
  merge: (order: Schemas["MergeOrder"]) => ask<Merge>("POST", "/merges", order),
  mergeState: (id: number) => ask<Merge>("GET", `/merges/${id}`),
  cancelMerge: (id: number) => ask<Merge>("DELETE", `/merges/${id}`),
  frame: (id: number) => ask<Frame>("GET", `/frames/${id}`),
  mark: (id: number, mark: Mark) => ask<Frame>("PATCH", `/frames/${id}`, { mark }),
  spot: (frame: number, x: number, y: number, recipe: Recipe, radius?: number) =>
    ask<Spot>("POST", `/frames/${frame}/spot`, { x, y, recipe, radius }),
  places: (frame: number, recipe: Recipe, places: [number, number][]) =>
    ask<Schemas["CapturePlaces"]>("POST", `/frames/${frame}/places`, { recipe, places }),
  level: (frame: number, recipe: Recipe, lines: [number, number][][]) =>
    ask<Schemas["Levelled"]>("POST", `/frames/${frame}/level`, { recipe, lines }),
  lensesOf: (frame: number) => ask<Schemas["LensName"][]>("GET", `/frames/${frame}/lenses`),
  searchLenses: (words: string) =>
    ask<Schemas["LensName"][]>("GET", `/lenses?words=${encodeURIComponent(words)}`),
  lensProfile: (frame: number, { maker, model, crop }: Schemas["LensName"]) =>
    ask<Schemas["LensProfile"]>("POST", `/frames/${frame}/lens`, { maker, model, crop }),
  findDust: (frame: number, recipe: Recipe) =>
    ask<Schemas["Dust"]>("POST", `/frames/${frame}/dust`, { recipe }),
  carryDust: (frame: number, recipe: Recipe) =>
    ask<Schemas["Carried"]>("POST", `/frames/${frame}/dust-map`, { recipe }),
  development: (stock: string, zone: number, target: number) =>
    ask<Schemas["DevelopmentProposal"]>(
      "GET",
      `/shelf/stocks/${stock}/development?zone=${zone}&target=${target}`,
    ),
  printPoints: (frame: number, recipe: Recipe, black: number, white: number) =>
    ask<Schemas["PrintPoints"]>("POST", `/frames/${frame}/print-points`, { recipe, black, white }),
  makePrint: (frame: number, name: string) =>
    ask<Print>("POST", `/frames/${frame}/prints`, { name }),
  print: (id: number) => ask<Print>("GET", `/prints/${id}`),
  change: (id: number, base: number, label: string, recipe: Recipe) =>
    ask<Print>("POST", `/prints/${id}/changes`, { base, label, recipe }),
  undo: (id: number, base: number) => ask<Print>("POST", `/prints/${id}/undo`, { base }),
  redo: (id: number, base: number) => ask<Print>("POST", `/prints/${id}/redo`, { base }),
  shelf: () => ask<Shelf>("GET", "/shelf"),
  factors: (stock: string) => ask<Factors>("GET", `/shelf/stocks/${stock}/factors`),
  item: (kind: ItemKind, id: string) => ask<ItemFile>("GET", `/shelf/${kind}/${id}/file`),
  addItem: (file: ItemFile) => ask<ItemFile>("POST", "/shelf/items", file),
  changeItem: (id: string, file: ItemFile) => ask<ItemFile>("PUT", `/shelf/items/${id}`, file),
  removeItem: (id: string) => ask<null>("DELETE", `/shelf/items/${id}`),
  measure: (given: Measurement) => ask<Measured>("POST", "/shelf/measurements", given),
  recipeSchema: () => ask<RecipeSchema>("GET", "/recipe-schema"),
  deliver: (print: number, order: DeliveryOrder) =>
    ask<Delivery>("POST", `/prints/${print}/deliveries`, order),
  delivery: (id: number) => ask<Delivery>("GET", `/deliveries/${id}`),
  cancelDelivery: (id: number) => ask<Delivery>("DELETE", `/deliveries/${id}`),
};

export const thumbnailUrl = (frame: Frame, printed: boolean) => {
  const head = printed ? (frame.prints.at(-1)?.head ?? 0) : 0;
  return `/api/frames/${frame.id}/thumbnail?show=${printed ? "print" : "colour"}&at=${head}`;
};

/** Sends a file as it is; `onShare` hears what part has left (1: all sent, now being looked over).
 * Gives the frame, and whether the roll had it already. */
export function sendCapture(
  roll: number,
  file: File,
  onShare: (share: number) => void,
): Promise<{ frame: Frame; known: boolean }> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", `/api/rolls/${roll}/frames?name=${encodeURIComponent(file.name)}`);
    request.setRequestHeader("content-type", "application/octet-stream");
    request.upload.onprogress = (event) => onShare(event.loaded / Math.max(event.total, 1));
    request.onload = () =>
      request.status < 300
        ? resolve({ frame: JSON.parse(request.responseText), known: request.status === 200 })
        : reject(problemFrom(request.responseText, request.status));
    request.onerror = () => reject(SILENT);
    request.send(file);
  });
}

/** What the recipe's model says of a field: the one definition of range, step and unit. */
export interface Field {
  title: string;
  description: string;
  unit: string;
  step: number;
  minimum: number;
  maximum: number;
  default: number | string | boolean | null;
  enum?: string[];
}

interface Property extends Partial<Field> {
  anyOf?: Partial<Field>[];
}

export interface RecipeSchema {
  $defs: Record<string, { properties: Record<string, Property> }>;
  properties: Record<string, { $ref?: string }>;
}

export function fieldOf(schema: RecipeSchema, station: string, name: string): Field {
  const ref = schema.properties[station]?.$ref?.split("/").at(-1) ?? "";
  return fieldOfKind(schema, ref, name);
}

/** A field of a kind of thing that recipes hold. */
export function fieldOfKind(schema: RecipeSchema, kind: string, name: string): Field {
  const found = schema.$defs[kind]?.properties[name];
  if (!found) throw new Error(`The recipe has no field ${name} of ${kind}.`);
  return { unit: "", step: 0.01, ...found.anyOf?.[0], ...found } as Field;
}
