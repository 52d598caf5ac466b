import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { type Cropping, sizeOf, useBench, useBenchStore, useTray } from "../../state/bench";
import { signed } from "../../wording/format";
import { readNumber } from "../../wording/numbers";
import { type Crop, WHOLE, withRatio } from "../cropping";
import { flipped, turned } from "../turning";
import { Heading, StationSlider } from "./parts";

/** Long over short side; 0 is that of the frame itself, null none. */
const RATIOS = [
  { value: "free", text: "free", ratio: null },
  { value: "original", text: "as the frame", ratio: 0 },
  { value: "film", text: "format of the film", ratio: null },
  { value: "1:1", text: "1 : 1", ratio: 1 },
  { value: "4:5", text: "4 : 5", ratio: 5 / 4 },
  { value: "3:2", text: "3 : 2", ratio: 3 / 2 },
  { value: "16:9", text: "16 : 9", ratio: 16 / 9 },
  { value: "own", text: "own…", ratio: null },
] as const;
type RatioName = (typeof RATIOS)[number]["value"];

/** Long over short side of a negative's picture; common practice, no source. */
const FILM_RATIOS: Record<string, number> = {
  "half frame": 24 / 18,
  "35 mm": 36 / 24,
  "6 × 6 cm": 1,
  "6 × 7 cm": 70 / 56,
  "4 × 5 in": 5 / 4,
  "8 × 10 in": 10 / 8,
};

const GUIDES = [
  { value: "none", text: "None" },
  { value: "thirds", text: "Thirds" },
  { value: "diagonals", text: "Diagonals" },
  { value: "middle", text: "Middle" },
] as const;

function useTool() {
  const store = useBenchStore();
  const tool = useBench((bench) => bench.tool);
  return { tool, take: store.getState().take };
}

/** How the picture stands, and what of it is kept. */
export function FrameControls() {
  const tray = useTray();
  const { recipe, change } = tray;
  const { tool, take } = useTool();
  const { capture } = recipe;
  const cropping = tool.kind === "crop" ? tool : null;
  const lines = tool.kind === "lines" ? tool : null;
  const draws = (many: 1 | 2) =>
    take(lines?.many === many ? { kind: "look" } : { kind: "lines", many, first: null });
  const stand = ({ capture, light }: ReturnType<typeof flipped>, label: string) => {
    change("light", light);
    change("capture", capture, label);
  };
  return (
    <>
      <div className="flex gap-1.5" data-control="capture.quarter_turns capture.flip">
        <Button
          onClick={() => stand(turned(recipe, "left"), "Turned left")}
          title="A quarter turn against the clock"
        >
          ↺ Left
        </Button>
        <Button
          onClick={() => stand(turned(recipe, "right"), "Turned right")}
          title="A quarter turn with the clock"
        >
          ↻ Right
        </Button>
        <Button pressed={capture.flip} onClick={() => stand(flipped(recipe), "Flipped")}>
          Flip
        </Button>
      </div>
      <div className="mt-2">
        <StationSlider
          station="capture"
          field="straighten"
          show={(v) => signed(v, 2)}
          label={(v) => `Straightened ${signed(v, 2)}°`}
        />
      </div>
      <Heading>Converging lines</Heading>
      {(["keystone_vertical", "keystone_horizontal"] as const).map((field) => (
        <StationSlider
          key={field}
          station="capture"
          field={field}
          show={(v) => signed(v, 3)}
          label={(v) =>
            `${field === "keystone_vertical" ? "Upright" : "Level"} lines ${signed(v, 3)}`
          }
        />
      ))}
      <div className="mt-1 flex gap-1.5">
        <Button
          pressed={lines?.many === 1}
          title="Draw a line along what should be level or upright: the picture is turned"
          onClick={() => draws(1)}
        >
          Draw one line
        </Button>
        <Button
          pressed={lines?.many === 2}
          title="Draw two lines that should both be upright, or both level: they become parallel"
          onClick={() => draws(2)}
        >
          Draw two lines
        </Button>
      </div>
      {lines && (
        <p role="status" className="mt-1.5 text-note text-amber">
          {lines.many === 1
            ? "Drag along an edge that should be level or upright."
            : lines.first
              ? "Now along the second edge."
              : "Drag along the first of two edges that are parallel in the subject."}
        </p>
      )}
      <Heading aside={capture.crop ? cropText(capture.crop) : "the whole frame"}>Crop</Heading>
      <div className="flex gap-1.5">
        <Button
          data-control="capture.crop"
          go={cropping !== null}
          onClick={() => take(cropping ? { kind: "look" } : { kind: "crop" })}
        >
          {cropping ? "Done" : "Crop…"}
        </Button>
        {capture.crop && (
          <Button onClick={() => change("capture", { crop: null }, "No crop")}>Whole frame</Button>
        )}
      </div>
      {cropping && <CropChoices />}
    </>
  );
}

function CropChoices() {
  const store = useBenchStore();
  const { recipe, change } = useTray();
  const size = useBench(sizeOf);
  const cropping = useBench((bench) => bench.cropping);
  const { name, own } = cropping;
  const keep = (ratio: number | null, more: Partial<Cropping> = {}) => {
    const now = (recipe.capture.crop as Crop | null) ?? WHOLE;
    // what a ratio made is not cut again by the next one, but what was drawn by hand is
    const { from } = cropping;
    const drawn = from && String(from.made) === String(now) ? (from.drawn as Crop) : now;
    const made = withRatio(drawn, ratio, size);
    store.setState({ cropping: { ...cropping, ...more, ratio, from: { drawn, made } } });
    if (ratio) change("capture", { crop: made }, "Cropped");
  };
  const ratioOf = (value: RatioName): number | null => {
    if (value === "own") return read(own);
    if (value === "original") return size.width / size.height;
    const long =
      value === "film"
        ? (FILM_RATIOS[recipe.film.film_format] ?? null)
        : (RATIOS.find((r) => r.value === value)?.ratio ?? null);
    return long && size.height > size.width ? 1 / long : long;
  };
  return (
    <>
      <label className="mt-2 grid h-[27px] grid-cols-[92px_1fr] items-center gap-2 text-[12.5px] text-soft">
        Ratio
        <select
          value={name}
          onChange={(event) => {
            const next = event.target.value as RatioName;
            keep(ratioOf(next), { name: next });
          }}
          className="rounded-[3px] border border-transparent bg-well px-1.5 py-[3px] text-ink hover:border-lift"
        >
          {RATIOS.map((r) => (
            <option key={r.value} value={r.value}>
              {r.value === "film" ? `${r.text}, ${recipe.film.film_format}` : r.text}
            </option>
          ))}
        </select>
      </label>
      {name === "own" && (
        <label className="grid h-[27px] grid-cols-[92px_1fr] items-center gap-2 text-[12.5px] text-soft">
          Width : height
          <input
            value={own}
            onChange={(event) => {
              const typed = event.target.value;
              const ratio = read(typed);
              if (ratio) keep(ratio, { own: typed });
              else store.setState({ cropping: { ...cropping, own: typed } });
            }}
            aria-invalid={read(own) === null}
            className="w-24 rounded-[3px] bg-well px-1.5 py-[3px] text-ink aria-invalid:text-loss"
          />
        </label>
      )}
      <div className="mt-1.5 flex gap-1.5">
        {cropping.ratio !== null && Math.abs(cropping.ratio - 1) > 0.001 && (
          <Button
            title="The same ratio, upright instead of across or the other way round"
            onClick={() => keep(1 / (cropping.ratio ?? 1))}
          >
            {cropping.ratio > 1 ? "Upright" : "Across"}
          </Button>
        )}
      </div>
      <div className="mt-1.5">
        <Segments
          label="Guides"
          value={cropping.guide}
          onChange={(guide) => store.setState({ cropping: { ...cropping, guide } })}
          options={GUIDES}
        />
      </div>
      <p className="mt-1.5 text-note text-soft">
        Drag edges, corners or the inside, or move them by arrow keys; Alt keeps the middle. Enter
        or Done ends it.
      </p>
    </>
  );
}

/** Width over height from what was typed, e.g. 7 : 5 or 1.4; null when it is none. */
function read(text: string): number | null {
  const [width = Number.NaN, height = 1] = text
    .split(/[:/×x]/)
    .map((part) => readNumber(part) ?? Number.NaN);
  const ratio = width / height;
  return ratio >= 0.1 && ratio <= 10 ? ratio : null;
}

const cropText = ([left = 0, top = 0, right = 1, bottom = 1]: number[]) =>
  `${Math.round((right - left) * 100)} × ${Math.round((bottom - top) * 100)} %`;
