import { useState } from "react";
import { fieldOf, fieldOfKind, type LocalContrast } from "../../api/client";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { development, ROMAN, readWithPart, signed } from "../../wording/format";
import { Heading, StationChoice, StationSlider } from "./parts";
import type { TrayProps } from "./tray";

/** The Development station. */
export function DevelopmentControls(tray: TrayProps) {
  const part = tray.part.development;
  return (
    <>
      <div className="mb-3">
        <Segments
          label="Part of the station"
          value={part}
          onChange={(development) => tray.onPart({ development })}
          options={[
            { value: "negative", text: "Negative" },
            { value: "local", text: "Local contrast" },
            { value: "zones", text: "Zones" },
          ]}
        />
      </div>
      {part === "negative" && <Negative {...tray} />}
      {part === "local" && <Local {...tray} />}
      {part === "zones" && <Zones {...tray} />}
    </>
  );
}

function Negative(tray: TrayProps) {
  const { recipe, shelf, facts } = tray;
  const { n = 0, developer = "general", brightness = 0 } = recipe.development;
  const stock = shelf.stocks.find((s) => s.id === recipe.film.stock);
  const kind = shelf.developers.find((d) => d.kind === developer);
  const rows: [string, string][] = facts
    ? [
        ["Zone I to VIII", `${(facts.negative_range[1] - facts.negative_range[0]).toFixed(2)} D`],
        ["Contrast index", facts.contrast_index?.toFixed(2) ?? "not reached"],
        ["Speed here", `ISO ${Math.round(facts.effective_speed)}`],
        ["Base and fog", `${facts.base_fog.toFixed(2)} D`],
      ]
    : [];
  return (
    <>
      <StationSlider
        tray={tray}
        station="development"
        field="n"
        value={n}
        min={stock?.least_n ?? -2}
        max={stock?.most_n ?? 2}
        show={development}
        read={(text) => readWithPart(text.replace(/^\s*n\s*$/i, "0"))}
        label={development}
      />
      <p className="mt-1 mb-2 text-note text-soft">
        {n === 0
          ? "Normal: seven stops, Zone I to VIII, on the density range the paper expects."
          : `${n > 0 ? "More" : "Less"} development: ${(7 - n).toFixed(1).replace(".0", "")} stops on the range that N gives seven.`}
      </p>
      <StationChoice tray={tray} station="development" field="developer" value={developer} />
      <p className="mt-1 mb-2 min-h-[32px] text-note text-soft">{kind?.about}</p>
      <StationSlider
        tray={tray}
        station="development"
        field="brightness"
        value={brightness}
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

function Local(tray: TrayProps) {
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
        home={Number(field.default)}
        value={recipe.development[scale]?.[name] ?? Number(field.default)}
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
          tray={tray}
          station="development"
          field={field}
          value={recipe.development[field] ?? 0}
          show={percent}
          label={(v) =>
            `${field.replace("_", " ")} ${percent(v)}`.replace(/^./, (c) => c.toUpperCase())
          }
        />
      ))}
    </>
  );
}

function Zones(tray: TrayProps) {
  const { recipe, handles, onHandles, change } = tray;
  const values = recipe.development[handles] ?? [];
  const [most, least] = handles === "zone_lift" ? [2, -2] : [2, -1];
  const set = (zone: number, value: number, label?: string) =>
    change("development", { [handles]: values.map((v, i) => (i === zone ? value : v)) }, label);
  return (
    <>
      <Segments
        label="What the handles move"
        value={handles}
        onChange={onHandles}
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
      {ROMAN.map((name, zone) => (
        <Slider
          key={name}
          label={`Zone ${name}`}
          value={values[zone] ?? 0}
          min={least}
          max={most}
          step={1 / 12}
          home={0}
          unit={handles === "zone_lift" ? "stops" : ""}
          show={(v) => signed(v, 2)}
          onPreview={(v) => set(zone, v)}
          onCommit={(v) =>
            set(
              zone,
              v,
              `Zone ${name} ${handles === "zone_lift" ? "lifted" : "contrast"} ${signed(v)}`,
            )
          }
        />
      ))}
    </>
  );
}
