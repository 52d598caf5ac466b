import { useState } from "react";
import { fieldOf, fieldOfKind, type Recipe } from "../../api/client";
import type { Bath, TonalStop } from "../../api/types";
import { Button } from "../../parts/Button";
import { Slider } from "../../parts/Slider";
import { useBench, useTray } from "../../state/bench";
import { signed } from "../../wording/format";
import { readNumber } from "../../wording/numbers";
import { TonerPlot } from "../plots/toner";
import type { Station } from "../station";
import { PartChoice } from "./PartChoice";
import { Heading, StationSlider } from "./parts";

type Kind = Bath["kind"];
const KINDS: Record<Kind, { text: string; takes: string; swatch: string }> = {
  sepia: { text: "Sepia", takes: "lights first", swatch: "#85603a" },
  selenium: { text: "Selenium", takes: "shadows first", swatch: "#3b2a36" },
  gold: { text: "Gold", takes: "throughout", swatch: "#46525f" },
  copper: { text: "Copper", takes: "throughout", swatch: "#8a5147" },
  "iron-blue": { text: "Iron blue", takes: "throughout", swatch: "#2c4a78" },
  dye: { text: "Dye", takes: "paper and all", swatch: "#7d7a52" },
};
const percent = (v: number) => String(Math.round(v * 100));
const readPercent = (text: string) => (readNumber(text, "%") ?? Number.NaN) / 100;

/** The Toner station: baths one after another, or colours at places of the scale. */
function TonerControls() {
  const part = useTray().parts.toner;
  return (
    <>
      <PartChoice station="toner" />
      {part === "baths" ? <Baths /> : <Stops />}
    </>
  );
}

function Baths() {
  const { recipe, schema, change } = useTray();
  const { baths, stops } = recipe.toner;
  const [chosen, choose] = useState<number | null>(baths.length ? 0 : null);
  const most = fieldOf(schema, "toner", "baths").maxItems ?? 0;
  const put = (next: Bath[], label?: string) => change("toner", { baths: next }, label);
  const add = (kind: Kind) => {
    const home = (name: string) => Number(fieldOfKind(schema, "Bath", name).default);
    const bath = { kind, time: home("time"), tone: home("tone"), hue: home("hue") };
    put([...baths, bath], `${KINDS[kind].text} bath`);
    choose(baths.length);
  };
  const move = (from: number, to: number) => {
    const bath = baths[from];
    if (!bath) return;
    put(
      baths.toSpliced(from, 1).toSpliced(to, 0, bath),
      `${KINDS[bath.kind].text} ${to < from ? "earlier" : "later"}`,
    );
    choose(to);
  };
  const set = (index: number, values: Partial<Bath>, label?: string) =>
    put(
      baths.map((b, i) => (i === index ? { ...b, ...values } : b)),
      label,
    );
  const slider = (index: number, name: "time" | "tone" | "hue") => {
    const bath = baths[index];
    if (!bath) return null;
    const field = fieldOfKind(schema, "Bath", name);
    const time = name === "time";
    return (
      <Slider
        key={name}
        label={field.title}
        description={field.description}
        min={field.minimum}
        max={field.maximum}
        step={field.step}
        home={Number(field.default)}
        unit={time ? "%" : field.unit}
        value={bath[name]}
        show={time ? percent : (v) => (name === "hue" ? String(Math.round(v)) : v.toFixed(2))}
        {...(time && { read: readPercent })}
        onPreview={(v) => set(index, { [name]: v })}
        onCommit={(v) =>
          set(
            index,
            { [name]: v },
            `${KINDS[bath.kind].text} ${time ? `${percent(v)} %` : `${name} ${v.toFixed(name === "hue" ? 0 : 2)}`}`,
          )
        }
      />
    );
  };
  return (
    <>
      <ol aria-label="Baths in their order" data-control="toner.baths">
        {baths.map((bath, index) => {
          const { text, takes, swatch } = KINDS[bath.kind];
          const on = index === chosen;
          return (
            <li
              key={index}
              className={`border-line border-b ${on ? "-mx-1.5 rounded bg-well px-1.5 pb-1.5" : ""}`}
            >
              <button
                type="button"
                aria-expanded={on}
                onClick={() => choose(on ? null : index)}
                className="flex w-full items-center gap-2.5 py-1.5 text-left text-[12.5px]"
              >
                <span
                  className="size-3.5 shrink-0 rounded-[2px] border border-black"
                  style={{ background: swatch }}
                />
                <span className="grow font-medium">{text}</span>
                <span className="text-note text-soft">{takes}</span>
                <span className="w-12 text-right">{percent(bath.time)} %</span>
              </button>
              {on && (
                <>
                  {slider(index, "time")}
                  {bath.kind === "sepia" && slider(index, "tone")}
                  {bath.kind === "dye" && slider(index, "hue")}
                  <div className="mt-0.5 flex justify-end gap-3 text-note text-faint">
                    {index > 0 && (
                      <button
                        type="button"
                        className="hover:text-ink"
                        onClick={() => move(index, index - 1)}
                      >
                        Earlier
                      </button>
                    )}
                    {index < baths.length - 1 && (
                      <button
                        type="button"
                        className="hover:text-ink"
                        onClick={() => move(index, index + 1)}
                      >
                        Later
                      </button>
                    )}
                    <button
                      type="button"
                      className="hover:text-ink"
                      onClick={() => {
                        put(baths.toSpliced(index, 1), `No ${text.toLowerCase()}`);
                        choose(null);
                      }}
                    >
                      Take away
                    </button>
                  </div>
                </>
              )}
            </li>
          );
        })}
      </ol>
      {baths.length < most ? (
        <div className="mt-2 flex flex-wrap gap-1.5">
          {(Object.keys(KINDS) as Kind[]).map((kind) => (
            <Button
              key={kind}
              title={`Add it after the others: ${KINDS[kind].takes}`}
              onClick={() => add(kind)}
            >
              + {KINDS[kind].text}
            </Button>
          ))}
        </div>
      ) : (
        <p className="mt-2 text-note text-soft">{most} baths: no more fit.</p>
      )}
      <p role="status" className="mt-2 text-note text-soft">
        {stops.length > 0 ? "Tonal stops take the place of what the baths give." : orderOf(baths)}
      </p>
      <Heading>Paper and silver</Heading>
      <StationSlider
        station="toner"
        field="warmth"
        show={(v) => signed(v, 2)}
        label={(v) => `${v < 0 ? "Cold" : "Warm"} tone ${signed(v, 2)}`}
      />
    </>
  );
}

/** What the order of the baths does. */
function orderOf(baths: Bath[]): string {
  const at = (kind: Kind) => baths.findIndex((bath) => bath.kind === kind && bath.time > 0);
  const [sepia, selenium, gold] = [at("sepia"), at("selenium"), at("gold")];
  if (baths.length === 0)
    return "The print is as the paper gives it. Each bath acts on the silver that is left.";
  if (sepia >= 0 && selenium > sepia)
    return "Sepia took the lights; selenium finds the silver that is left, in the shadows.";
  if (selenium >= 0 && sepia > selenium) return "Selenium keeps these shadows from sepia's bleach.";
  if (sepia >= 0 && gold > sepia) return "Gold turns what is sepia orange-red.";
  return "Each bath acts on the silver that is left.";
}

const FIRST: TonalStop[] = [
  { place: 0, colour: "#000000" },
  { place: 85, colour: "#fff4e6" },
];

function Stops() {
  const { recipe, schema, change } = useTray();
  const scale = useBench(({ facts }) => facts?.print_scale);
  const { stops } = recipe.toner;
  const most = fieldOf(schema, "toner", "stops").maxItems ?? 0;
  const field = fieldOfKind(schema, "TonalStop", "place");
  const put = (next: TonalStop[], label?: string) => change("toner", { stops: next }, label);
  const set = (index: number, values: Partial<TonalStop>, label?: string) =>
    put(
      stops.map((s, i) => (i === index ? { ...s, ...values } : s)),
      label,
    );
  /** Between the neighbours, since stops keep their order. */
  const room = (index: number) => ({
    min: index > 0 ? (stops[index - 1]?.place ?? 0) + field.step : field.minimum,
    max: index < stops.length - 1 ? (stops[index + 1]?.place ?? 100) - field.step : field.maximum,
  });
  const add = () => {
    if (stops.length === 0) {
      put(FIRST, "Tonal stops");
      return;
    }
    // in the middle of the widest gap
    const gaps = stops.slice(1).map((stop, i) => stop.place - (stops[i]?.place ?? 0));
    const at = gaps.indexOf(Math.max(...gaps));
    const place = Math.round((stops[at]?.place ?? 0) + (gaps[at] ?? 0) / 2);
    const colour = scale?.[Math.round((place / 100) * (scale.length - 1))] ?? "#808080";
    put(stops.toSpliced(at + 1, 0, { place, colour }), `Stop at ${place} %`);
  };
  const full = stops.length >= most || stops.some((_, i) => i > 0 && room(i).max - room(i).min < 0);
  return (
    <>
      <p className="mb-2 text-note text-soft">
        Colours at places of the print's scale, joined smoothly; nothing is lighter than the last.
      </p>
      <ul data-control="toner.stops">
        {stops.map((stop, index) => (
          <li key={index} className="flex items-center gap-1.5">
            <input
              type="color"
              aria-label={`Colour of stop ${index + 1}`}
              value={stop.colour}
              onChange={(event) => set(index, { colour: event.target.value })}
              onBlur={(event) =>
                set(
                  index,
                  { colour: event.target.value },
                  `Stop ${index + 1} ${event.target.value}`,
                )
              }
              className="h-5 w-6 shrink-0 cursor-pointer rounded-[2px] border-0 bg-transparent p-0"
            />
            <div className="min-w-0 flex-1">
              <Slider
                label={`Stop ${index + 1}`}
                description={field.description}
                {...room(index)}
                step={field.step}
                home={stop.place}
                unit={field.unit}
                value={stop.place}
                show={(v) => String(Math.round(v))}
                onPreview={(place) => set(index, { place })}
                onCommit={(place) =>
                  set(index, { place }, `Stop ${index + 1} at ${Math.round(place)} %`)
                }
              />
            </div>
            <button
              type="button"
              aria-label={`Take stop ${index + 1} away`}
              title="Take it away"
              className="px-1 text-faint hover:text-ink"
              onClick={() =>
                put(
                  stops.length > 2 ? stops.toSpliced(index, 1) : [],
                  `Stop ${index + 1} taken away`,
                )
              }
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex gap-1.5">
        <Button disabled={full} onClick={add}>
          {stops.length ? "Add a stop" : "Lay stops"}
        </Button>
        {stops.length > 0 && <Button onClick={() => put([], "No tonal stops")}>Without</Button>}
      </div>
    </>
  );
}

function says({ toner }: Recipe): string {
  if (toner.stops.length) return `${toner.stops.length} tonal stops`;
  const baths = toner.baths
    .filter((bath) => bath.time > 0)
    .map((bath) => `${KINDS[bath.kind].text} ${percent(bath.time)} %`);
  if (toner.warmth) baths.push(toner.warmth > 0 ? "warm" : "cold");
  return (
    baths
      .join(" · ")
      .toLowerCase()
      .replace(/^./, (c) => c.toUpperCase()) || "None"
  );
}

export const station: Station = {
  title: "Toner",
  about: "The silver changes colour, bath after bath.",
  plot: TonerPlot,
  says,
  Controls: TonerControls,
  ring: ["toner.warmth", null],
};
