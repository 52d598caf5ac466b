// Writes src/api/recipe.generated.ts: the stations in their order, and which of their fields belong
// to the frame, and limits of what is asked for beside recipes, from the API document. With --check nothing is written: it tells whether that is
// up to date.
import { readFileSync, writeFileSync } from "node:fs";

const at = (path) => new URL(path, import.meta.url);
const { schemas } = JSON.parse(readFileSync(at("../../docs/openapi.json"), "utf8")).components;
const named = (schema) => schemas[(schema.$ref ?? "").split("/").at(-1)];
const order = schemas.StationNames.enum;
const fields = Object.fromEntries(
  order.map((station) => {
    const part = schemas.OfFrame.properties[station];
    return [station, part ? Object.keys(named(part).properties) : []];
  }),
);
const limits = ({ minimum, maximum, default: home }) => ({ minimum, maximum, default: home });
const asked = {
  strips: limits(schemas.TestStrip.properties.count),
  step: limits(schemas.TestStrip.properties.step),
  ghosts: limits(schemas.MergeOrder.properties.ghosts),
};
const text = `// Made from docs/openapi.json by \`make types\`.

export const STATION_NAMES = ${JSON.stringify(order)} as const;

/** Fields that belong to the frame; all others are of the look. */
export const OF_FRAME: Record<(typeof STATION_NAMES)[number], readonly string[]> = ${JSON.stringify(fields, null, 2)};

/** Fields of the parts of each station; each part can be switched off. */
export const PARTS: Record<(typeof STATION_NAMES)[number], Record<string, readonly string[]>> = ${JSON.stringify(schemas.StationParts.default, null, 2)};

/** Limits of a test strip, and of how strictly a merge leaves out what moved. */
export const ASKED = ${JSON.stringify(asked)} as const;
`;
const file = at("../src/api/recipe.generated.ts");
if (!process.argv.includes("--check")) writeFileSync(file, text);
else if (readFileSync(file, "utf8") !== text) {
  console.error("src/api/recipe.generated.ts is not made from docs/openapi.json; run: make types");
  process.exit(1);
}
