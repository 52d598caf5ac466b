import { useState } from "react";
import { fieldOf, fieldOfKind } from "../../api/client";
import type { ColourBand } from "../../api/types";
import { hueColour } from "../../parts/hue";
import { useTray } from "../../state/bench";
import { hueName, NAMED } from "../bands";
import { Heading, KindSlider, StationSlider } from "../trays/parts";

/** Colours washed over shadows and lights, warmth taken out, and the capture's colour let back. */
export function Wash() {
  const { toner } = useTray().recipe;
  return (
    <>
      <Heading>Colour wash</Heading>
      {(["shadow", "light"] as const).map((over) => {
        const hue = toner[`${over}_hue`];
        return (
          <div key={over}>
            <StationSlider
              station="toner"
              field={`${over}_wash`}
              title={over === "shadow" ? "Over shadows" : "Over lights"}
              show={(v) => v.toFixed(2)}
              label={(v) => `Wash over ${over}s ${v.toFixed(2)}`}
            />
            {toner[`${over}_wash`] > 0 && (
              <div className="flex items-center gap-1.5 pl-2">
                <span
                  aria-hidden
                  className="size-3.5 shrink-0 rounded-full"
                  style={{ background: hueColour(hue) }}
                />
                <div className="min-w-0 flex-1">
                  <StationSlider
                    station="toner"
                    field={`${over}_hue`}
                    title={hueName(hue)}
                    show={(v) => String(Math.round(v))}
                    label={(v) => `Wash over ${over}s: ${hueName(v).toLowerCase()}`}
                  />
                </div>
              </div>
            )}
          </div>
        );
      })}
      {(toner.shadow_wash > 0 || toner.light_wash > 0) && (
        <StationSlider
          station="toner"
          field="wash_meets"
          title="They meet"
          show={(v) => String(Math.round(v))}
          label={(v) => `Washes meet at ${Math.round(v)} %`}
        />
      )}
      <StationSlider
        station="toner"
        field="warmth_out"
        show={(v) => v.toFixed(2)}
        label={(v) => `Warmth out ${v.toFixed(2)}`}
      />
      <Heading>Capture's colour</Heading>
      <StationSlider
        station="toner"
        field="capture_colour"
        title="Over all"
        show={(v) => v.toFixed(2)}
        label={(v) => `Capture's colour ${v.toFixed(2)}`}
      />
      <ColourBands />
    </>
  );
}

function ColourBands() {
  const { recipe, schema, change } = useTray();
  const [chosen, choose] = useState<number | null>(null);
  const bands = recipe.toner.colour_bands;
  const most = fieldOf(schema, "toner", "colour_bands").maxItems ?? 0;
  const put = (next: ColourBand[], label?: string) =>
    change("toner", { colour_bands: next }, label);
  const home = (name: string) => Number(fieldOfKind(schema, "ColourBand", name).default);
  const add = (centre: number) => {
    const band = { back: home("back"), centre, width: home("width"), softness: home("softness") };
    put([...bands, band], `${hueName(centre)} let back`);
    choose(bands.length);
  };
  return (
    <>
      <ul aria-label="Hues let back" data-control="toner.colour_bands">
        {bands.map((band, index) => {
          const name = hueName(band.centre);
          const set = (values: Partial<ColourBand>, label?: string) =>
            put(
              bands.map((b, i) => (i === index ? { ...b, ...values } : b)),
              label && `${name}: ${label.toLowerCase()}`,
            );
          return (
            <li
              key={index}
              className={index === chosen ? "-mx-1.5 rounded bg-well px-1.5 pb-1" : ""}
            >
              <div className="flex items-center gap-1.5">
                <button
                  type="button"
                  aria-expanded={index === chosen}
                  aria-label={`Shape ${name}`}
                  title="Its centre, width and softness"
                  onClick={() => choose(index === chosen ? null : index)}
                  className={`size-3.5 shrink-0 rounded-full border ${index === chosen ? "border-ink" : "border-transparent"}`}
                  style={{ background: hueColour(band.centre) }}
                />
                <div className="min-w-0 flex-1">
                  <KindSlider
                    kind="ColourBand"
                    field="back"
                    title={name}
                    value={band.back}
                    show={(v) => v.toFixed(2)}
                    onSet={(back, label) => set({ back }, label && `let back ${back.toFixed(2)}`)}
                  />
                </div>
              </div>
              {index === chosen && (
                <div className="pl-5">
                  {(["centre", "width", "softness"] as const).map((field) => (
                    <KindSlider
                      key={field}
                      kind="ColourBand"
                      field={field}
                      value={band[field]}
                      show={(v) => (field === "softness" ? v.toFixed(2) : String(Math.round(v)))}
                      onSet={(v, label) => set({ [field]: v }, label)}
                    />
                  ))}
                  <div className="flex justify-end text-note text-faint">
                    <button
                      type="button"
                      className="hover:text-ink"
                      onClick={() => {
                        put(bands.toSpliced(index, 1), `${name} no more let back`);
                        choose(null);
                      }}
                    >
                      Take away
                    </button>
                  </div>
                </div>
              )}
            </li>
          );
        })}
      </ul>
      {bands.length < most && (
        <div className="mt-1.5 flex items-center gap-2 text-note text-soft">
          By hue
          {NAMED.map(([hue, name]) => (
            <button
              key={name}
              type="button"
              aria-label={`Let ${name.toLowerCase()} back`}
              title={`Let ${name.toLowerCase()} back`}
              onClick={() => add(hue)}
              className="size-4 rounded-full hover:outline hover:outline-ink"
              style={{ background: hueColour(hue) }}
            />
          ))}
        </div>
      )}
      <p className="mt-2 text-note text-soft">
        At the print's own lightness. To one place only: a pass of the printing map, under Tones.
      </p>
    </>
  );
}
