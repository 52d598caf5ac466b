import { useEffect, useRef } from "react";
import { fieldOf, type Recipe, type Shelf, within } from "../../api/client";
import { Glass } from "../../parts/Glass";
import { roving } from "../../parts/roving";
import { Segments } from "../../parts/Segments";
import { useTray } from "../../state/bench";
import { exposureIndex, signed, stops } from "../../wording/format";
import { FilmPlot, GrainPlot } from "../plots/film";
import type { Station } from "../station";
import { PartChoice } from "./PartChoice";
import { Heading, LOG2, StationChoice, StationSlider } from "./parts";

interface StockListProps {
  stocks: Shelf["stocks"];
  chosen: string;
  onChoose: (stock: Shelf["stocks"][number]) => void;
}

/** All films; the chosen one is always in sight. */
function StockList({ stocks, chosen, onChoose }: StockListProps) {
  const list = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: scrolled when another is chosen
  useEffect(() => {
    list.current?.querySelector("[aria-checked=true]")?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  return (
    <div
      ref={list}
      role="radiogroup"
      aria-label="Stock"
      data-control="film.stock"
      onKeyDown={roving("radio")}
      data-fills
      className="flex h-[127px] max-h-max shrink-0 grow flex-col gap-1 overflow-y-auto"
    >
      {stocks.map((s) => (
        <button
          key={s.id}
          type="button"
          role="radio"
          aria-checked={s.id === chosen}
          tabIndex={s.id === chosen ? 0 : -1}
          title={s.about}
          onClick={() => onChoose(s)}
          className={`grid shrink-0 grid-cols-[1fr_68px] items-center gap-2 rounded-[3px] border bg-well px-2.5 py-0.5 text-left ${
            s.id === chosen ? "border-amber" : "border-transparent hover:bg-raise"
          }`}
        >
          <span className="truncate">
            <span className="mr-2 text-[12.5px] font-medium">{s.name}</span>
            <span className="text-small text-soft">{s.kind}</span>
          </span>
          <Glass transmittance={s.sensitivity} />
        </button>
      ))}
    </div>
  );
}

/** Stops by which a film is pushed: exposed less, developed by as many N more (common practice). */
const PUSHES = [
  { value: "-1", text: "Pull 1" },
  { value: "0", text: "N" },
  { value: "1", text: "Push 1" },
  { value: "2", text: "Push 2" },
] as const;

function pushed(own: number, recipe: Recipe): (typeof PUSHES)[number]["value"] | null {
  const index = recipe.film.exposure_index ?? own;
  const found = PUSHES.find(
    ({ value }) =>
      Math.abs(Math.log2(index / own) - Number(value)) < 0.05 &&
      Math.abs(recipe.development.n - Number(value)) < 0.02,
  );
  return found?.value ?? null;
}

/** The Film station. */
function FilmControls() {
  const tray = useTray();
  return (
    <>
      <PartChoice station="film" />
      {tray.parts.film === "stock" ? <StockAndExposure /> : <Grain />}
    </>
  );
}

function Grain() {
  const tray = useTray();
  const { recipe, shelf, facts } = tray;
  const { film } = recipe;
  const stock = shelf.stocks.find((s) => s.id === film.stock);
  const times = (v: number) => v.toFixed(2);
  return (
    <>
      <StationChoice station="film" field="film_format" value={film.film_format} />
      <Heading aside={stock && `${stock.grain_kind}, rms ${stock.granularity}`}>Grain</Heading>
      <StationSlider
        station="film"
        field="grain"
        show={times}
        label={(v) => `Grain × ${times(v)}`}
      />
      <StationSlider
        station="film"
        field="grain_size"
        show={times}
        label={(v) => `Grain size × ${times(v)}`}
      />
      <StationSlider
        station="film"
        field="grain_softness"
        show={times}
        label={(v) => `Grain softness ${times(v)}`}
      />
      <StationSlider
        station="film"
        field="grain_evenness"
        show={(v) => signed(v, 2)}
        label={(v) => `Grain evenness ${signed(v, 2)}`}
      />
      <p className="text-note text-soft">
        Judge it at 100 %, or as a print of 40 cm at reading distance (P).
      </p>
      <Heading aside={facts && `${(facts.halation * 100).toFixed(1)} % of the light returns`}>
        Base
      </Heading>
      <StationSlider
        station="film"
        field="halation"
        show={times}
        label={(v) => `Halation × ${times(v)}`}
      />
      {stock && (
        <p className="text-note text-soft">Resolving power {stock.resolving_power} lines per mm.</p>
      )}
    </>
  );
}

function StockAndExposure() {
  const tray = useTray();
  const { recipe, shelf, schema, change } = tray;
  const range = fieldOf(schema, "film", "exposure_index");
  const stock = shelf.stocks.find((s) => s.id === recipe.film.stock) ?? shelf.stocks[0];
  if (!stock) return null;
  const own = stock.zone_index;
  const index = recipe.film.exposure_index ?? own;
  const given = Math.log2(own / index);
  const keep = (value: number) =>
    Math.abs(Math.log2(value / own)) < 0.02 ? null : Number(exposureIndex(value));
  return (
    <>
      <StockList
        stocks={shelf.stocks}
        chosen={stock.id}
        onChoose={(s) => change("film", { stock: s.id, exposure_index: null }, s.name)}
      />
      <p className="mt-2 min-h-[48px] text-note text-soft">{stock.about}</p>
      <Heading aside={`ISO ${stock.speed} · zone index ${exposureIndex(own)}`}>Placement</Heading>
      <StationSlider
        station="film"
        field="exposure_index"
        value={index}
        keep={keep}
        min={within(own / 16, range)}
        max={within(own * 16, range)}
        step={1 / 3}
        home={own}
        scale={LOG2}
        show={exposureIndex}
        label={(v) => `Exposure index ${exposureIndex(v)}`}
      />
      <p className="text-note text-soft">
        {Math.abs(given) < 0.05
          ? `Zone I at 0.10 with N: ${stops(Math.log2(stock.speed / own))} stop under the label.`
          : `${stops(Math.abs(given))} ${Math.abs(given) > 1.1 ? "stops" : "stop"} ${given > 0 ? "more" : "less"} exposure than at its zone index.`}
      </p>
      <div className="mb-1 grid grid-cols-[92px_1fr] items-center gap-2">
        <span className="text-[12.5px] text-soft">Push, pull</span>
        <Segments
          label="Push or pull"
          value={pushed(own, recipe)}
          onChange={(next) => {
            const stopsMore = Number(next);
            const index = within(Number(exposureIndex(own * 2 ** stopsMore)), range);
            const exposure_index = stopsMore ? index : null;
            change("film", { exposure_index });
            change(
              "development",
              { n: stopsMore },
              stopsMore
                ? `${stopsMore > 0 ? "Pushed" : "Pulled"} ${Math.abs(stopsMore)} to EI ${exposure_index}`
                : "Zone index, N",
            );
          }}
          options={PUSHES}
        />
      </div>
      <StationSlider
        station="film"
        field="placement"
        show={(v) => signed(v, 2)}
        label={(v) => `Placement ${signed(v)} stops`}
      />
      {stock.sensitivity[36] ? <Beyond /> : null}
      <p className="text-note text-soft">
        {recipe.film.spots.length
          ? "Drag a tag on the zone staff, or choose it and press a digit, to place it there."
          : "Meter a spot (M) and place it on a zone; the others show where they fall."}
      </p>
    </>
  );
}

/** What is concluded about the infrared from a colour capture, to be corrected by eye. */
function Beyond() {
  const tray = useTray();
  if (tray.recipe.capture.infrared) return null;
  return (
    <>
      <Heading>Beyond red</Heading>
      {(["foliage", "sky"] as const).map((field) => (
        <StationSlider
          key={field}
          station="film"
          field={field}
          show={(v) => signed(v, 2)}
          label={(v) => `${field === "foliage" ? "Foliage" : "Sky"} ${signed(v)} stops beyond red`}
        />
      ))}
      <p className="mb-1 text-note text-soft">
        A colour capture holds no infrared: it is concluded from colour. Green paint is taken for
        leaves, a blue wall for sky; foliage in blue shade comes out too dark.
      </p>
    </>
  );
}

export const station: Station = {
  title: "Film",
  about: "Light becomes exposure, exposure becomes silver.",
  plot: FilmPlot,
  says: (recipe, shelf) => {
    const stock = shelf.stocks.find((s) => s.id === recipe.film.stock);
    return `${stock?.name ?? recipe.film.stock} · EI ${exposureIndex(recipe.film.exposure_index ?? stock?.zone_index ?? 0)}`;
  },
  below: (parts) => (parts.film === "grain" ? GrainPlot : FilmPlot),
  Controls: FilmControls,
  ring: ["light.lens_filter", "film.stock"],
};
