import { useEffect, useRef } from "react";
import type { Recipe, Shelf } from "../../api/client";
import { Segments } from "../../parts/Segments";
import { signed, stops } from "../../wording/format";
import { Glass, Heading, StationChoice, StationSlider } from "./parts";
import type { TrayProps } from "./tray";

const LOG2 = { to: Math.log2, from: (place: number) => 2 ** place };

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
      className="flex max-h-[127px] shrink-0 flex-col gap-1 overflow-y-auto"
    >
      {stocks.map((s) => (
        <button
          key={s.id}
          type="button"
          role="radio"
          aria-checked={s.id === chosen}
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
  { value: "0", text: "Box" },
  { value: "1", text: "Push 1" },
  { value: "2", text: "Push 2" },
] as const;

function pushed(speed: number, recipe: Recipe): (typeof PUSHES)[number]["value"] | null {
  const index = recipe.film.exposure_index ?? speed;
  const found = PUSHES.find(
    ({ value }) =>
      Math.abs(Math.log2(index / speed) - Number(value)) < 0.05 &&
      Math.abs((recipe.development.n ?? 0) - Number(value)) < 0.02,
  );
  return found?.value ?? null;
}

/** The Film station. */
export function FilmControls(tray: TrayProps) {
  return (
    <>
      <div className="mb-3">
        <Segments
          label="Part of the station"
          value={tray.part.film}
          onChange={(film) => tray.onPart({ film })}
          options={[
            { value: "stock", text: "Stock" },
            { value: "grain", text: "Format and grain" },
          ]}
        />
      </div>
      {tray.part.film === "stock" ? <StockAndExposure {...tray} /> : <Grain {...tray} />}
    </>
  );
}

function Grain(tray: TrayProps) {
  const { recipe, shelf, facts } = tray;
  const { film } = recipe;
  const stock = shelf.stocks.find((s) => s.id === film.stock);
  const times = (v: number) => v.toFixed(2);
  return (
    <>
      <StationChoice
        tray={tray}
        station="film"
        field="film_format"
        value={film.film_format ?? ""}
      />
      <Heading aside={stock && `${stock.grain_kind}, rms ${stock.granularity}`}>Grain</Heading>
      <StationSlider
        tray={tray}
        station="film"
        field="grain"
        value={film.grain ?? 1}
        show={times}
        label={(v) => `Grain × ${times(v)}`}
      />
      <StationSlider
        tray={tray}
        station="film"
        field="grain_size"
        value={film.grain_size ?? 1}
        show={times}
        label={(v) => `Grain size × ${times(v)}`}
      />
      <StationSlider
        tray={tray}
        station="film"
        field="grain_softness"
        value={film.grain_softness ?? 0}
        show={times}
        label={(v) => `Grain softness ${times(v)}`}
      />
      <StationSlider
        tray={tray}
        station="film"
        field="grain_evenness"
        value={film.grain_evenness ?? 0}
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
        tray={tray}
        station="film"
        field="halation"
        value={film.halation ?? 1}
        show={times}
        label={(v) => `Halation × ${times(v)}`}
      />
      {stock && (
        <p className="text-note text-soft">Resolving power {stock.resolving_power} lines per mm.</p>
      )}
    </>
  );
}

function StockAndExposure(tray: TrayProps) {
  const { recipe, shelf, change } = tray;
  const stock = shelf.stocks.find((s) => s.id === recipe.film.stock) ?? shelf.stocks[0];
  if (!stock) return null;
  const index = recipe.film.exposure_index ?? stock.speed;
  const given = Math.log2(stock.speed / index);
  const own = (value: number) => {
    const round = value < 20 ? Number(value.toFixed(1)) : Math.round(value);
    return Math.abs(Math.log2(value / stock.speed)) < 0.02 ? null : round;
  };
  return (
    <>
      <StockList
        stocks={shelf.stocks}
        chosen={stock.id}
        onChoose={(s) => change("film", { stock: s.id, exposure_index: null }, s.name)}
      />
      <p className="mt-2 min-h-[48px] text-note text-soft">{stock.about}</p>
      <Heading>Placement</Heading>
      <StationSlider
        tray={tray}
        station="film"
        field="exposure_index"
        value={index}
        keep={own}
        min={stock.speed / 16}
        max={stock.speed * 16}
        step={1 / 3}
        home={stock.speed}
        scale={LOG2}
        show={(v) => (v < 20 ? v.toFixed(1).replace(".0", "") : String(Math.round(v)))}
        label={(v) => `Exposure index ${Math.round(v)}`}
      />
      <p className="text-note text-soft">
        {Math.abs(given) < 0.05
          ? `Rated at its own speed, ISO ${stock.speed}.`
          : `${stops(Math.abs(given))} ${Math.abs(given) > 1.1 ? "stops" : "stop"} ${given > 0 ? "more" : "less"} exposure than at ISO ${stock.speed}.`}
      </p>
      <div className="mb-1 grid grid-cols-[88px_1fr] items-center gap-2">
        <span className="text-[12.5px] text-soft">Push, pull</span>
        <Segments
          label="Push or pull"
          value={pushed(stock.speed, recipe)}
          onChange={(next) => {
            const stopsMore = Number(next);
            const exposure_index = stopsMore ? Math.round(stock.speed * 2 ** stopsMore) : null;
            change("film", { exposure_index });
            change(
              "development",
              { n: stopsMore },
              stopsMore
                ? `${stopsMore > 0 ? "Pushed" : "Pulled"} ${Math.abs(stopsMore)} to EI ${exposure_index}`
                : "Box speed, N",
            );
          }}
          options={PUSHES}
        />
      </div>
      <StationSlider
        tray={tray}
        station="film"
        field="placement"
        value={recipe.film.placement ?? 0}
        min={-5}
        max={5}
        show={(v) => signed(v, 2)}
        label={(v) => `Placement ${signed(v)} stops`}
      />
      {stock.sensitivity[36] ? <Beyond {...tray} /> : null}
      <p className="text-note text-soft">
        {recipe.film.spots?.length
          ? "Drag a tag on the zone staff, or choose it and press a digit, to place it there."
          : "Meter a spot (M) and place it on a zone; the others show where they fall."}
      </p>
    </>
  );
}

/** What is concluded about the infrared from a colour capture, to be corrected by eye. */
function Beyond(tray: TrayProps) {
  const { film } = tray.recipe;
  if (tray.recipe.capture.infrared) return null;
  return (
    <>
      <Heading>Beyond red</Heading>
      {(["foliage", "sky"] as const).map((field) => (
        <StationSlider
          key={field}
          tray={tray}
          station="film"
          field={field}
          value={film[field] ?? 0}
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
