import { useState } from "react";
import { fieldOf, fieldOfKind } from "../../api/client";
import type { Bath } from "../../api/types";
import { Button } from "../../parts/Button";
import { useTray } from "../../state/bench";
import { signed } from "../../wording/format";
import { Heading, KindSlider, StationSlider } from "../trays/parts";
import { bathOf, KINDS, type Kind, percent } from "./kinds";

/** Baths one after another. */
export function Baths() {
  const { recipe, schema, shelf, change } = useTray();
  const process = shelf.papers.find((p) => p.id === recipe.paper.paper)?.process ?? false;
  const { baths, stops } = recipe.toner;
  const [chosen, choose] = useState<number | null>(baths.length ? 0 : null);
  const most = fieldOf(schema, "toner", "baths").maxItems ?? 0;
  const put = (next: Bath[], label?: string) => change("toner", { baths: next }, label);
  const add = (kind: Bath["kind"], toner: string | null = null) => {
    const home = (name: string) => Number(fieldOfKind(schema, "Bath", name).default);
    const bath = { kind, time: home("time"), tone: home("tone"), hue: home("hue"), toner };
    put([...baths, bath], `${bathOf(bath, shelf.toners).text} bath`);
    choose(baths.length);
  };
  const move = (from: number, to: number) => {
    const bath = baths[from];
    if (!bath) return;
    put(
      baths.toSpliced(from, 1).toSpliced(to, 0, bath),
      `${bathOf(bath, shelf.toners).text} ${to < from ? "earlier" : "later"}`,
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
    const { text } = bathOf(bath, shelf.toners);
    return (
      <KindSlider
        key={name}
        kind="Bath"
        field={name}
        value={bath[name]}
        scale={name === "time" ? 100 : 1}
        show={(v) => (name === "tone" ? v.toFixed(2) : String(Math.round(v)))}
        onSet={(v, said) => {
          const shown = name === "time" ? `${percent(v)} %` : said?.toLowerCase();
          set(index, { [name]: v }, said && `${text} ${shown}`);
        }}
      />
    );
  };
  return (
    <>
      <ol aria-label="Baths in their order" data-control="toner.baths">
        {baths.map((bath, index) => {
          const { text, takes, swatch } = bathOf(bath, shelf.toners);
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
          {shelf.toners.map((own) => (
            <Button
              key={own.id}
              title="Your own, as it was measured"
              onClick={() => add("own", own.id)}
            >
              + {own.name}
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
      <StationSlider
        station="toner"
        field="paper_tone"
        title="Paper's own"
        home={process ? 1 : 0}
        show={(v) => v.toFixed(2)}
        label={(v) => `Paper's own tone ${v.toFixed(2)}`}
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
