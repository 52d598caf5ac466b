import { useState } from "react";
import { type Facts, fieldOf, fieldOfKind, type LocalContrast } from "../../api/client";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore, useTray } from "../../state/bench";
import { development, exposureIndex, ROMAN, readDevelopment, signed } from "../../wording/format";
import { DevelopmentPlot } from "../plots/development";
import type { Station } from "../station";
import { PartChoice } from "./PartChoice";
import { Heading, StationChoice, StationSlider, StepSliders } from "./parts";

/** The Development station. */
function DevelopmentControls() {
  const tray = useTray();
  const part = tray.parts.development;
  return (
    <>
      <PartChoice station="development" />
      {part === "negative" && <Negative />}
      {part === "local" && <Local />}
      {part === "zones" && <Zones />}
    </>
  );
}

/** The index at which Zone I lies at 0.10 in this development, and the speed that it won or lost. */
function indexHere({ index_here, zone_index }: Facts): string {
  const won = Math.log2(index_here / zone_index);
  const speed = Math.abs(won) < 0.01 ? "" : `, ${signed(won, 2)} stop`;
  return `EI ${exposureIndex(index_here)}${speed}`;
}

function Negative() {
  const tray = useTray();
  const { recipe, shelf, facts } = tray;
  const { n, developer } = recipe.development;
  const stock = shelf.stocks.find((s) => s.id === recipe.film.stock);
  const kind = shelf.developers.find((d) => d.kind === developer);
  const rows: [string, string][] = facts
    ? [
        ["Zone I to VIII", `${(facts.negative_range[1] - facts.negative_range[0]).toFixed(2)} D`],
        ["Contrast index", facts.contrast_index?.toFixed(2) ?? "not reached"],
        ["Zone index here", indexHere(facts)],
        ["Base and fog", `${facts.base_fog.toFixed(2)} D`],
      ]
    : [];
  return (
    <>
      <StationSlider
        station="development"
        field="n"
        {...(stock && { min: stock.least_n, max: stock.most_n })}
        show={development}
        read={readDevelopment}
        label={development}
      />
      {facts && Math.abs(facts.n - n) > 0.005 && (
        <p role="status" className="mt-1 text-note text-amber">
          {stock?.name ?? "This stock"} stands no more than {development(facts.n)}; it is developed
          to that.
        </p>
      )}
      <p className="mt-1 mb-2 text-note text-soft">
        {n === 0
          ? "Normal: seven stops, Zone I to VIII, on the density range the paper expects."
          : `${n > 0 ? "More" : "Less"} development: ${(7 - n).toFixed(1).replace(".0", "")} stops on the range that N gives seven.`}
      </p>
      <StationChoice station="development" field="developer" value={developer} />
      <p className="mt-1 mb-2 min-h-[32px] text-note text-soft">{kind?.about}</p>
      <StationSlider
        station="development"
        field="brightness"
        show={(v) => signed(v, 2)}
        label={(v) => `Brightness ${signed(v, 2)}`}
      />
      <p className="text-note text-soft">Mid tones move; both ends of the scale stay.</p>
      <dl className="mt-3 grid grid-cols-[96px_1fr] gap-y-0.5 text-note">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

const SCALES = [
  { field: "fine", text: "Fine" },
  { field: "mid_scale", text: "Middle" },
  { field: "broad", text: "Broad" },
] as const;
type Scale = (typeof SCALES)[number]["field"];
const TONES = ["shadows", "middle", "highlights"] as const;

function Local() {
  const tray = useTray();
  const { recipe, schema, change } = tray;
  const [chosen, choose] = useState<Scale>("mid_scale");
  const percent = (v: number) => v.toFixed(2);
  const set = (scale: Scale, values: Partial<LocalContrast>, label?: string) =>
    change("development", { [scale]: { ...recipe.development[scale], ...values } }, label);
  const slider = (scale: Scale, name: keyof LocalContrast, said?: string) => {
    const field = fieldOfKind(schema, "LocalContrast", name);
    const title = fieldOf(schema, "development", scale).title;
    const say = (v: number) =>
      name === "strength"
        ? `${title} contrast ${signed(v, 2)}`
        : `${title} contrast, ${field.title.toLowerCase()} ${percent(v)}`;
    return (
      <Slider
        key={scale + name}
        label={said ?? field.title}
        description={field.description}
        min={field.minimum}
        max={field.maximum}
        step={field.step}
        control={name === "strength" ? `development.${scale}` : undefined}
        home={Number(field.default)}
        value={recipe.development[scale][name]}
        show={name === "strength" ? (v) => signed(v, 2) : percent}
        onPreview={(v) => set(scale, { [name]: v })}
        onCommit={(v) => {
          choose(scale);
          set(scale, { [name]: v }, say(v));
        }}
      />
    );
  };
  return (
    <>
      {SCALES.map(({ field, text }) => slider(field, "strength", text))}
      <p className="mt-1 text-note text-soft">
        Fine raises textures, middle things, broad whole parts of the picture. Edges keep their
        shape.
      </p>
      <Heading>Where it acts</Heading>
      <Segments
        label="Scale"
        value={chosen}
        onChange={choose}
        options={SCALES.map(({ field, text }) => ({ value: field, text }))}
      />
      <div className="mt-1">{TONES.map((name) => slider(chosen, name))}</div>
      <Heading>Held back</Heading>
      {(["threshold", "hold_highlights", "hold_shadows"] as const).map((field) => (
        <StationSlider
          key={field}
          station="development"
          field={field}
          show={percent}
          label={(v) =>
            `${field.replace("_", " ")} ${percent(v)}`.replace(/^./, (c) => c.toUpperCase())
          }
        />
      ))}
    </>
  );
}

function Zones() {
  const { recipe } = useTray();
  const store = useBenchStore();
  const handles = useBench((bench) => bench.handles);
  return (
    <>
      <Segments
        label="What the handles move"
        value={handles}
        onChange={(next) => store.setState({ handles: next })}
        options={[
          { value: "zone_lift", text: "Lift" },
          { value: "zone_contrast", text: "Contrast" },
        ]}
      />
      <p className="my-2 text-note text-soft">
        {handles === "zone_lift"
          ? "Lifts or lowers what lies on each zone of the scene, without crossing edges. The handles stand over the zone staff."
          : "Raises or evens out differences within each zone. The handles stand over the zone staff."}
      </p>
      <StepSliders
        station="development"
        field={handles}
        values={recipe.development[handles]}
        names={ROMAN}
        what="Zone"
        show={(v) => signed(v, 2)}
        label={(name, v) =>
          `Zone ${name} ${handles === "zone_lift" ? "lifted" : "contrast"} ${signed(v)}`
        }
      />
    </>
  );
}

export const station: Station = {
  title: "Development",
  about: "The contrast of the negative.",
  plot: DevelopmentPlot,
  says: (recipe, _, facts) =>
    facts
      ? `${development(recipe.development.n)}${
          recipe.development.developer === "general" ? "" : ` · ${recipe.development.developer}`
        } · ${facts.negative_range.map((d) => d.toFixed(2)).join(" to ")} D`
      : development(recipe.development.n),
  below: (parts) => (parts.development === "negative" ? DevelopmentPlot : null),
  Controls: DevelopmentControls,
  ring: ["development.n", "film.placement"],
};
