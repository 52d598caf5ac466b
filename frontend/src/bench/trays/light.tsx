import { Switch } from "radix-ui";
import { useState } from "react";
import { Glass } from "../../parts/Glass";
import { hueColour } from "../../parts/hue";
import { roving } from "../../parts/roving";
import { Segments } from "../../parts/Segments";
import { useTray } from "../../state/bench";
import { stops } from "../../wording/format";
import { LightAndGlassPlot, LightPlot } from "../plots/light";
import { named, type Station } from "../station";
import { AirAndFocus } from "./air";
import { Breaking } from "./breaking";
import { HueBands } from "./HueBands";
import { PartChoice } from "./PartChoice";
import { Heading, StationSlider } from "./parts";
import { Sureness } from "./sureness";

const BY_TEMPERATURE = "by-temperature";
/** The two places for a filter, and the fields of the recipe that hold what is in them. */
const SLOTS = {
  first: { filter: "lens_filter", strength: "strength" },
  second: { filter: "second_filter", strength: "second_strength" },
} as const;
const HUE_WHEEL = [5, 55, 110, 150, 240, 275, 330, 365]
  .map((hue) => hueColour(hue % 360))
  .join(",");

/** The Light station. */
function LightControls() {
  const tray = useTray();
  return (
    <>
      <PartChoice station="light" />
      {tray.parts.light === "glass" && <LightAndFilters />}
      {tray.parts.light === "hues" && <HueBands />}
      {tray.parts.light === "air" && <AirAndFocus />}
      {tray.parts.light !== "air" && <Breaking />}
      {tray.parts.light !== "air" && <Sureness />}
    </>
  );
}

/** The colour of the light, and the glass before the lens. */
function LightAndFilters() {
  const tray = useTray();
  const { recipe, shelf, facts, change } = tray;
  const { source, compensate } = recipe.light;
  const [slot, setSlot] = useState<keyof typeof SLOTS>("first");
  const { filter, strength } = SLOTS[slot];
  const glassOf = (place: keyof typeof SLOTS) =>
    shelf.filters.find((f) => f.id === recipe.light[SLOTS[place].filter]);
  const glass = glassOf(slot);
  const lamp = shelf.lights.find((l) => l.id === source);
  return (
    <>
      <label
        data-control="light.source"
        className="grid h-[27px] grid-cols-[92px_1fr] items-center gap-2 text-[12.5px] text-soft"
      >
        Light
        <select
          value={source}
          aria-label="Light on the film"
          onChange={(event) => {
            const next = event.target.value;
            const name = shelf.lights.find((l) => l.id === next)?.name ?? "Light by temperature";
            change("light", { source: next }, name);
          }}
          className="min-w-0 rounded-[3px] border border-transparent bg-well px-1.5 py-[3px] text-ink hover:border-lift"
        >
          <option value={BY_TEMPERATURE}>by its temperature</option>
          {shelf.lights.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
            </option>
          ))}
        </select>
      </label>
      {lamp ? (
        <p className="min-h-[27px] text-note text-soft">{lamp.about}</p>
      ) : (
        <StationSlider
          station="light"
          field="temperature"
          show={(v) => String(Math.round(v))}
          label={(v) => `Light ${Math.round(v)} K`}
        />
      )}
      <Heading aside={glass?.colour}>Lens filters</Heading>
      <div className="mb-1.5">
        <Segments
          label="Filter to choose"
          control="light.second_filter light.second_strength"
          value={slot}
          onChange={setSlot}
          options={[
            { value: "first", text: `First: ${glassOf("first")?.name}` },
            { value: "second", text: `Second: ${glassOf("second")?.name}` },
          ]}
        />
      </div>
      <div
        role="radiogroup"
        aria-label="Lens filter"
        data-control="light.lens_filter light.filter_hue light.strength"
        onKeyDown={roving("radio")}
        className="grid grid-cols-4 gap-1"
      >
        {shelf.filters.map((f) => (
          <button
            key={f.id}
            type="button"
            role="radio"
            aria-checked={f === glass}
            tabIndex={f === (glass ?? shelf.filters[0]) ? 0 : -1}
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
            {f.id === "any-hue" ? (
              <span
                className="mt-1 block h-4 rounded-[2px]"
                style={{ background: `linear-gradient(90deg, ${HUE_WHEEL})` }}
              />
            ) : (
              <Glass transmittance={f.transmittance} />
            )}
          </button>
        ))}
      </div>
      <p className="mt-1.5 mb-0.5 line-clamp-2 text-note text-soft">{glass?.about}</p>
      {glass?.id === "any-hue" && (
        <StationSlider
          station="light"
          field="filter_hue"
          show={(v) => String(Math.round(v))}
          label={(v) => `Filter of hue ${Math.round(v)}°`}
        />
      )}
      {glass && glass.id !== "none" && (
        <StationSlider
          station="light"
          field={strength}
          show={(v) => v.toFixed(2)}
          label={(v) => `${glass.name}, density × ${v.toFixed(2)}`}
        />
      )}
      <div
        data-control="light.compensate"
        className="mt-1.5 flex items-center justify-between gap-2 text-note text-soft"
      >
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

export const station: Station = {
  title: "Light",
  about: "What the film was lit by, and the glass before it.",
  plot: LightPlot,
  says: (recipe, shelf) => {
    const { temperature, lens_filter, second_filter } = recipe.light;
    const lamp = shelf.lights.find((l) => l.id === recipe.light.source)?.name;
    const glass = [lens_filter, second_filter].filter((id) => id !== "none");
    const names = glass.map((id) => named(shelf.filters, id)).join(" + ");
    return `${lamp ?? `${Math.round(temperature)} K`} · ${names || "no filter"}`;
  },
  below: (parts) => (parts.light === "glass" ? LightAndGlassPlot : null),
  Controls: LightControls,
  ring: ["light.lens_filter", null],
  keys: {
    h: ({ tool, openStation, openPart, take }) => {
      const pulls = tool.kind === "hues";
      openStation("light");
      openPart({ light: "hues" });
      take({ kind: pulls ? "look" : "hues" });
    },
  },
};
