import { Switch } from "radix-ui";
import { type ReactNode, useEffect, useRef, useState } from "react";
import type {
  Facts,
  Frame,
  Reading,
  Recipe,
  RecipeSchema,
  Shelf,
  StripFacts,
  TestStrip,
} from "../api/client";
import { fieldOf } from "../api/client";
import { Button } from "../parts/Button";
import { Segments } from "../parts/Segments";
import { Slider, type SliderProps } from "../parts/Slider";
import { SPECTRUM, wavelengthColour } from "../parts/spectrum";
import type { Change, StationName } from "../state/usePrint";
import {
  development,
  readWithPart,
  seconds,
  share,
  shutter,
  signed,
  stops,
  withPart,
} from "../wording/format";
import { HueBands } from "./HueBands";
import { STATIONS } from "./stations";

export interface TrayProps {
  station: StationName;
  frame: Frame;
  recipe: Recipe;
  schema: RecipeSchema;
  shelf: Shelf;
  facts: Facts | null;
  reading: Reading | null;
  change: Change;
  /** Whether dragging on the picture pulls at hues. */
  pulling: boolean;
  onPulling: (on: boolean) => void;
  /** Whether a click on the picture picks the neutral of an infrared capture. */
  picking: boolean;
  onPicking: (on: boolean) => void;
  /** The test strip that is laid over the picture, and how it came to lie. */
  strip: TestStrip | null;
  laid: StripFacts | null;
  onStrip: (strip: TestStrip | null) => void;
  /** Which controls of the Light station are out. */
  part: LightPart;
  onPart: (part: LightPart) => void;
}

export type LightPart = "glass" | "hues";

const LIGHTS = [
  { kelvin: 3000, text: "Lamp" },
  { kelvin: 4300, text: "Evening" },
  { kelvin: 5500, text: "Daylight" },
  { kelvin: 6500, text: "Overcast" },
  { kelvin: 8000, text: "Shade" },
];
/** The two places for a filter, and the fields of the recipe that hold what is in them. */
const SLOTS = {
  first: { filter: "lens_filter", strength: "strength" },
  second: { filter: "second_filter", strength: "second_strength" },
} as const;
const LOG2 = { to: Math.log2, from: (place: number) => 2 ** place };

/** The controls of the chosen station, and its plot in full. */
export function Tray(props: TrayProps) {
  const station = STATIONS.find((s) => s.name === props.station) ?? STATIONS[0];
  if (!station) return null;
  const Controls = CONTROLS[station.name];
  const PlotOf = station.plot;
  const reset = () => {
    const home = Object.fromEntries(
      Object.keys(props.recipe[station.name]).map((field) => [
        field,
        fieldOf(props.schema, station.name, field).default,
      ]),
    );
    props.change(station.name, home, `Reset ${station.title}`);
  };
  return (
    <aside
      aria-label={`${station.title} station`}
      className="flex min-h-0 flex-col overflow-y-auto border-r border-black bg-panel px-4 py-3.5"
    >
      <div className="flex items-baseline justify-between">
        <h1 className="text-head font-semibold">{station.title}</h1>
        <button type="button" onClick={reset} className="text-note text-faint hover:text-ink">
          Reset
        </button>
      </div>
      <p className="mb-3.5 text-note text-soft">{station.about}</p>
      <Controls {...props} />
      {props.facts && props.reading && !(props.station === "light" && props.part === "hues") && (
        <div className="mt-auto pt-4">
          <PlotOf facts={props.facts} reading={props.reading} />
        </div>
      )}
    </aside>
  );
}

const CONTROLS: Record<StationName, (props: TrayProps) => ReactNode> = {
  capture: CaptureControls,
  light: LightControls,
  film: FilmControls,
  development: DevelopmentControls,
  enlarger: EnlargerControls,
  paper: PaperControls,
};

function Heading({ children, aside }: { children: ReactNode; aside?: ReactNode }) {
  return (
    <h2 className="mt-4 mb-1.5 flex items-baseline justify-between text-note font-[560] first:mt-0">
      {children}
      {aside && <span className="font-normal text-soft">{aside}</span>}
    </h2>
  );
}

type StationSliderProps<S extends StationName> = {
  tray: TrayProps;
  station: S;
  field: keyof Recipe[S] & string;
  value: number;
  /** What undo calls the change. */
  label: (value: number) => string;
  /** What the recipe keeps of a value. */
  keep?: (value: number) => number | null;
} & Partial<Pick<SliderProps, "min" | "max" | "step" | "home" | "scale" | "show" | "read">>;

/** A slider of a field of the recipe; its range, step, unit and words are those of the field. */
function StationSlider<S extends StationName>(props: StationSliderProps<S>) {
  const { tray, station, field: name, label, keep = (value) => value, ...slider } = props;
  const field = fieldOf(tray.schema, station, name);
  const kept = (value: number) => ({ [name]: keep(value) }) as Partial<Recipe[S]>;
  return (
    <Slider
      label={field.title}
      description={field.description}
      min={field.minimum}
      max={field.maximum}
      step={field.step}
      home={Number(field.default)}
      unit={field.unit}
      {...slider}
      onPreview={(value) => tray.change(station, kept(value))}
      onCommit={(value) => tray.change(station, kept(value), label(value))}
    />
  );
}

function CaptureControls(tray: TrayProps) {
  const { frame, recipe, reading } = tray;
  const { metadata } = frame;
  const rows: [string, string | null][] = [
    ["File", frame.file_name],
    ["Size", `${frame.width} × ${frame.height}`],
    ["Camera", metadata.camera ?? null],
    ["Lens", metadata.lens ?? null],
    ["Taken", metadata.taken?.replace("T", ", ") ?? null],
    [
      "Exposure",
      [
        metadata.shutter && shutter(metadata.shutter),
        metadata.aperture && `f/${Number(metadata.aperture.toFixed(1))}`,
        metadata.sensitivity && `ISO ${metadata.sensitivity}`,
      ]
        .filter(Boolean)
        .join(" · ") || null,
    ],
    ["Clipped", reading && share(reading.capture_clipped)],
  ];
  return (
    <>
      <StationSlider
        tray={tray}
        station="capture"
        field="exposure"
        value={recipe.capture.exposure ?? 0}
        show={(v) => signed(v, 2)}
        label={(v) => `Exposure trim ${signed(v)}`}
      />
      <InfraredControls {...tray} />
      <Heading>As taken</Heading>
      <dl className="grid grid-cols-[72px_1fr] gap-y-1 text-note">
        {rows
          .filter(([, value]) => value)
          .map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-faint">{name}</dt>
              <dd className="truncate text-soft" title={value ?? ""}>
                {value}
              </dd>
            </div>
          ))}
      </dl>
    </>
  );
}

function InfraredControls(tray: TrayProps) {
  const { recipe, reading, change, picking, onPicking } = tray;
  const { infrared = false, neutral } = recipe.capture;
  return (
    <>
      <Heading>Kind of capture</Heading>
      <Segments
        label="Kind of capture"
        value={infrared ? "infrared" : "colour"}
        onChange={(kind) =>
          change(
            "capture",
            { infrared: kind === "infrared" },
            kind === "infrared" ? "Infrared capture" : "Colour capture",
          )
        }
        options={[
          { value: "colour", text: "Colour" },
          { value: "infrared", text: "Infrared" },
        ]}
      />
      {!infrared && reading?.looks_infrared && (
        <p className="mt-1.5 text-note text-amber">
          Its cast is that of a camera converted to infrared.
        </p>
      )}
      {infrared && (
        <>
          <p className="mt-1.5 mb-2 text-note text-soft">
            The channels are weighed directly; light, filters and the film's colour sensitivity do
            not act.
          </p>
          <div className="flex items-center gap-3">
            <Button
              pressed={picking}
              title="Click on sunlit leaves: there the three channels become equal"
              onClick={() => onPicking(!picking)}
            >
              {neutral ? "Pick another neutral" : "Pick a neutral"}
            </Button>
            {neutral && (
              <button
                type="button"
                onClick={() => change("capture", { neutral: null }, "No neutral")}
                className="text-note text-faint hover:text-ink"
              >
                Without
              </button>
            )}
          </div>
          <div className="mt-1.5">
            {(["red", "green", "blue"] as const).map((field) => (
              <StationSlider
                key={field}
                tray={tray}
                station="capture"
                field={field}
                value={recipe.capture[field] ?? 1}
                show={(v) => v.toFixed(2)}
                label={(v) => `Channel ${field} ${v.toFixed(2)}`}
              />
            ))}
          </div>
        </>
      )}
    </>
  );
}

function LightControls(tray: TrayProps) {
  const { part, onPart: setPart } = tray;
  return (
    <>
      <div className="mb-3">
        <Segments
          label="Part of the station"
          value={part}
          onChange={setPart}
          options={[
            { value: "glass", text: "Light and filters" },
            { value: "hues", text: "Hue bands" },
          ]}
        />
      </div>
      {part === "glass" ? <LightAndFilters {...tray} /> : <HueBands {...tray} />}
    </>
  );
}

function LightAndFilters(tray: TrayProps) {
  const { recipe, shelf, facts, change } = tray;
  const { temperature = 5500, compensate = true } = recipe.light;
  const [slot, setSlot] = useState<keyof typeof SLOTS>("first");
  const { filter, strength } = SLOTS[slot];
  const glassOf = (place: keyof typeof SLOTS) =>
    shelf.filters.find((f) => f.id === recipe.light[SLOTS[place].filter]);
  const glass = glassOf(slot);
  const say = (kelvin: number) => `Light ${Math.round(kelvin)} K`;
  return (
    <>
      <h2 className="mb-1.5 text-note font-[560]">Light on the film</h2>
      <div className="flex flex-wrap gap-x-3 gap-y-0.5 text-note">
        {LIGHTS.map((light) => (
          <button
            key={light.kelvin}
            type="button"
            aria-pressed={temperature === light.kelvin}
            onClick={() => change("light", { temperature: light.kelvin }, say(light.kelvin))}
            className={temperature === light.kelvin ? "text-amber" : "text-soft hover:text-ink"}
          >
            {light.text}
          </button>
        ))}
      </div>
      <StationSlider
        tray={tray}
        station="light"
        field="temperature"
        value={temperature}
        show={(v) => String(Math.round(v))}
        label={say}
      />
      <Heading aside={glass?.colour}>Lens filters</Heading>
      <div className="mb-1.5">
        <Segments
          label="Filter to choose"
          value={slot}
          onChange={setSlot}
          options={[
            { value: "first", text: `First: ${glassOf("first")?.name}` },
            { value: "second", text: `Second: ${glassOf("second")?.name}` },
          ]}
        />
      </div>
      <div role="radiogroup" aria-label="Lens filter" className="grid grid-cols-4 gap-1">
        {shelf.filters.map((f) => (
          <button
            key={f.id}
            type="button"
            role="radio"
            aria-checked={f === glass}
            title={f.about}
            onClick={() =>
              change(
                "light",
                { [filter]: f.id, [strength]: 1 },
                `${slot === "first" ? "Filter" : "Second filter"} ${f.name}`,
              )
            }
            className={`rounded-[3px] border bg-well px-1.5 pt-0.5 pb-1 text-left text-small ${
              f === glass ? "border-amber text-ink" : "border-transparent text-soft hover:text-ink"
            }`}
          >
            {f.name}
            <Glass transmittance={f.transmittance} />
          </button>
        ))}
      </div>
      <p className="mt-2 mb-1 min-h-[32px] text-note text-soft">{glass?.about}</p>
      {glass && glass.id !== "none" && (
        <StationSlider
          tray={tray}
          station="light"
          field={strength}
          value={recipe.light[strength] ?? 1}
          show={(v) => v.toFixed(2)}
          label={(v) => `${glass.name}, density × ${v.toFixed(2)}`}
        />
      )}
      <div className="mt-1.5 flex items-center justify-between gap-2 text-note text-soft">
        <span>
          {facts?.blind ? (
            "This film does not see what that glass lets through."
          ) : (
            <>
              Factor{" "}
              <b className="font-medium text-ink">
                × {facts ? facts.filter_factor.toFixed(1) : "…"}
              </b>
              {facts && `, ${stops(Math.log2(facts.filter_factor))} stops`},{" "}
              {compensate ? "made up for" : "not made up for"}
            </>
          )}
        </span>
        <Switch.Root
          checked={compensate}
          aria-label="Make up for the filter factor"
          onCheckedChange={(on) =>
            change(
              "light",
              { compensate: on },
              on ? "Factor made up for" : "Factor not made up for",
            )
          }
          className="h-4 w-7 shrink-0 rounded-full bg-[#4a4a4a] p-0.5 data-[state=checked]:bg-amber"
        >
          <Switch.Thumb className="block size-3 rounded-full bg-ink transition-transform data-[state=checked]:translate-x-3 data-[state=checked]:bg-[#1a1206]" />
        </Switch.Root>
      </div>
    </>
  );
}

/** The part of the spectrum a filter passes. */
function Glass({ transmittance }: { transmittance: number[] }) {
  const step = 72 / 52;
  return (
    <svg viewBox="0 0 72 16" className="mt-1 block w-full" aria-hidden="true">
      {SPECTRUM.slice(1).map((nm, i) => {
        const height = 16 * (transmittance[i + 1] ?? 0);
        return (
          <rect
            key={nm}
            x={i * step}
            y={16 - height}
            width={step + 0.3}
            height={height}
            fill={wavelengthColour(nm)}
          />
        );
      })}
    </svg>
  );
}

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

function FilmControls(tray: TrayProps) {
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
      <Heading aside={`rms granularity ${stock.granularity}`}>Grain</Heading>
      <label className="grid h-[27px] grid-cols-[88px_1fr] items-center gap-2 text-[12.5px] text-soft">
        Format
        <select
          value={recipe.film.film_format ?? "35 mm"}
          onChange={(event) => {
            const film_format = event.target.value as NonNullable<Recipe["film"]["film_format"]>;
            change("film", { film_format }, `Format ${film_format}`);
          }}
          className="rounded-[3px] border border-transparent bg-well px-1.5 py-[3px] text-ink hover:border-lift"
        >
          {fieldOf(tray.schema, "film", "film_format").enum?.map((format) => (
            <option key={format}>{format}</option>
          ))}
        </select>
      </label>
      {(["grain", "grain_size"] as const).map((field) => (
        <StationSlider
          key={field}
          tray={tray}
          station="film"
          field={field}
          value={recipe.film[field] ?? 1}
          show={(v) => v.toFixed(2)}
          label={(v) => `${field === "grain" ? "Grain" : "Grain size"} × ${v.toFixed(2)}`}
        />
      ))}
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
      <p className="text-note text-soft">
        {recipe.film.spots?.length
          ? "Drag a tag on the zone staff, or choose it and press a digit, to place it there."
          : "Meter a spot (M) and place it on a zone; the others show where they fall."}
      </p>
    </>
  );
}

function DevelopmentControls(tray: TrayProps) {
  const { recipe, facts } = tray;
  const n = recipe.development.n ?? 0;
  const range = facts ? facts.negative_range[1] - facts.negative_range[0] : 0;
  return (
    <>
      <StationSlider
        tray={tray}
        station="development"
        field="n"
        value={n}
        show={development}
        read={(text) => readWithPart(text.replace(/^\s*n\s*$/i, "0"))}
        label={development}
      />
      <p className="mt-2 text-note text-soft">
        {n === 0
          ? "Normal: seven stops, Zone I to VIII, on the density range the paper expects."
          : `${n > 0 ? "More" : "Less"} development: ${(7 - n).toFixed(1).replace(".0", "")} stops on the range that N gives seven.`}
      </p>
      {facts && (
        <p className="mt-2 text-note text-soft">
          Zone I to Zone VIII: <b className="font-medium text-ink">{range.toFixed(2)} D</b>
        </p>
      )}
    </>
  );
}

function EnlargerControls(tray: TrayProps) {
  const { recipe, facts, change } = tray;
  if (!facts) return null;
  const standard = facts.standard_time;
  const time = recipe.enlarger.time ?? standard;
  const off = Math.log2(time / standard);
  const own = (value: number) =>
    Math.abs(Math.log2(value / standard)) < 0.01 ? null : Number(value.toFixed(2));
  const say = (value: number) =>
    own(value) ? `Base exposure ${seconds(value)} s` : "Standard time";
  const set = (value: number) => change("enlarger", { time: own(value) }, say(value));
  return (
    <>
      <StationSlider
        tray={tray}
        station="enlarger"
        field="time"
        value={time}
        keep={own}
        min={1.5}
        max={96}
        step={1 / 12}
        home={standard}
        scale={LOG2}
        show={seconds}
        label={say}
      />
      <div className="mt-1 flex gap-1">
        {[-1 / 2, -1 / 3, -1 / 6, 1 / 6, 1 / 3, 1 / 2].map((step) => (
          <button
            key={step}
            type="button"
            aria-label={`${Math.abs(step) === 0.5 ? "half" : Math.abs(step) < 0.3 ? "a sixth" : "a third"} stop ${step < 0 ? "less" : "more"}`}
            onClick={() => set(Math.min(Math.max(time * 2 ** step, 1.5), 96))}
            className="flex-1 rounded-[3px] bg-well py-1 text-small text-soft hover:bg-raise hover:text-ink"
          >
            {step < 0 ? "−" : "+"}
            {Math.abs(step) === 0.5 ? "½" : Math.abs(step) < 0.3 ? "⅙" : "⅓"}
          </button>
        ))}
      </div>
      <p className="mt-3 text-note text-soft">
        Standard printing time <b className="font-medium text-ink">{seconds(standard)} s</b>: Zone V
        prints as middle grey, 0.75 above the paper base.
        {Math.abs(off) > 0.02 && ` This is ${signed(off)} stops from it.`}
      </p>
      {recipe.enlarger.time != null && (
        <button
          type="button"
          onClick={() => change("enlarger", { time: null }, "Standard time")}
          className="mt-2 self-start rounded bg-raise px-2.5 py-1 text-note hover:bg-lift"
        >
          Take the standard time
        </button>
      )}
      <StripControls tray={tray} home={STRIP} />
    </>
  );
}

const STRIP: TestStrip = { over: "time", count: 7, by: "stops", step: 0.5, lie: null };
const CONTRAST_STRIP: TestStrip = { ...STRIP, over: "grade", count: 6 };
const STEPS = [
  { value: "1", text: "1 stop" },
  { value: "0.5", text: "½" },
  { value: "0.3333", text: "⅓" },
  { value: "0.1667", text: "⅙" },
  { value: "2s", text: "2 s" },
] as const;

function StripControls({ tray, home }: { tray: TrayProps; home: TestStrip }) {
  const { strip, laid, onStrip } = tray;
  const step = strip && (strip.by === "seconds" ? "2s" : String(strip.step));
  const name = home.over === "time" ? "test strip" : "contrast strip";
  return (
    <>
      <Heading>{home.over === "time" ? "Test strip" : "Contrast strip"}</Heading>
      <div className="flex items-center gap-3">
        <Button pressed={strip !== null} onClick={() => onStrip(strip ? null : home)}>
          {strip ? "Put it away" : `Lay a ${name}`}
        </Button>
        {strip && laid && (
          <button
            type="button"
            onClick={() => onStrip({ ...strip, lie: laid.lie === "upright" ? "level" : "upright" })}
            className="text-note text-soft hover:text-ink"
          >
            Turn it
          </button>
        )}
      </div>
      {strip && (
        <>
          {home.over === "time" && (
            <div className="mt-2">
              <Segments
                label="Step between strips"
                value={step as (typeof STEPS)[number]["value"] | null}
                onChange={(next) =>
                  onStrip(
                    next === "2s"
                      ? { ...strip, by: "seconds", step: 2 }
                      : { ...strip, by: "stops", step: Number(next) },
                  )
                }
                options={STEPS}
              />
            </div>
          )}
          <Slider
            label="Strips"
            value={strip.count ?? home.count ?? 7}
            min={2}
            max={15}
            step={1}
            home={home.count ?? 7}
            onPreview={(count) => onStrip({ ...strip, count: Math.round(count) })}
            onCommit={(count) => onStrip({ ...strip, count: Math.round(count) })}
          />
          <p className="text-note text-soft">
            Press a strip to take its {home.over === "time" ? "time" : "grade"}; drag from one to
            another for what lies between.
          </p>
        </>
      )}
    </>
  );
}

function PaperControls(tray: TrayProps) {
  const { recipe, shelf, reading } = tray;
  const paper = shelf.papers.find((p) => p.id === recipe.paper.paper);
  return (
    <>
      <Heading aside={paper?.surface}>{paper?.name}</Heading>
      <p className="mb-3 text-note text-soft">{paper?.about}</p>
      <StationSlider
        tray={tray}
        station="paper"
        field="grade"
        value={recipe.paper.grade ?? 2}
        show={withPart}
        read={readWithPart}
        label={(v) => `Grade ${withPart(v)}`}
      />
      <div className="mt-1 ml-[96px] mr-[72px] flex justify-between text-small text-faint">
        <span>soft</span>
        <span>hard</span>
      </div>
      {reading && (
        <p className="mt-3 text-note text-soft">
          Paper black <b className="font-medium text-ink">{share(reading.paper_black)}</b>, paper
          white <b className="font-medium text-ink">{share(reading.paper_white)}</b> of the picture.
        </p>
      )}
      <StripControls tray={tray} home={CONTRAST_STRIP} />
    </>
  );
}
