/** What the tests look at of the front end's own logic. */

export { joined, parted, within } from "../src/api/recipe";
export * as cropping from "../src/bench/cropping";
export * as passes from "../src/bench/map/passes";
export * as wholes from "../src/bench/map/wholes";
export * as exposing from "../src/bench/exposing";
export { axes } from "../src/bench/ring/axes";
export { taken } from "../src/bench/ring/axis";
export * as places from "../src/bench/places";
export * as turning from "../src/bench/turning";
export * as tags from "../src/bench/tags";
export * as order from "../src/sheet/order";
export { benchStore } from "../src/state/bench";
export { Printing } from "../src/state/printing";
export * as sheets from "../src/state/sheets";
export * as format from "../src/wording/format";
export * as numbers from "../src/wording/numbers";
