import { useEffect, useRef, useState } from "react";
import { api, fieldOf, fieldOfKind, type HueBand } from "../../api/client";
import { Button } from "../../parts/Button";
import { hueColour } from "../../parts/hue";
import { Menu } from "../../parts/Menu";
import { useBench, useBenchStore, useTray } from "../../state/bench";
import { signed } from "../../wording/format";
import { bandNames, hueName, split } from "../bands";
import { HueRing } from "./HueRing";
import { Heading, KindSlider, StationSlider } from "./parts";

const EVEN = [4, 6, 8, 12];

/** How bright each hue prints: a ring over the picture's own hues, and a row for each band. */
export function HueBands() {
  const tray = useTray();
  const { recipe, schema, change, facts, reading } = tray;
  const store = useBenchStore();
  const pulling = useBench((bench) => bench.tool.kind === "hues");
  const [chosen, choose] = useState<number | null>(null);
  const bands = recipe.light.hue_bands;
  const field = fieldOf(schema, "light", "hue_bands");
  const most = field.maxItems ?? bands.length;
  const home = newBand(schema);
  const count = useRef(bands.length);
  useEffect(() => {
    // one that was just made is the one to go on with
    if (bands.length === count.current + 1) choose(bands.length - 1);
    else if (bands.length !== count.current) choose(null);
    count.current = bands.length;
  }, [bands.length]);
  const put = (next: HueBand[], label?: string) => change("light", { hue_bands: next }, label);
  const set = (index: number, values: Partial<HueBand>, label?: string) =>
    put(
      bands.map((b, i) => (i === index ? { ...b, ...values } : b)),
      label,
    );
  const add = (centre: number) => {
    if (bands.length < most)
      put([...bands, { ...home, centre }], `Hue band at ${hueName(centre).toLowerCase()}`);
  };
  const names = bandNames(bands);
  const least = fieldOfKind(schema, "HueBand", "width").minimum;
  return (
    <>
      <HueRing
        bands={bands}
        names={names}
        chosen={chosen}
        onChoose={choose}
        onAdd={add}
        facts={facts}
        reading={reading}
        onSet={set}
      />
      <Button
        pressed={pulling}
        hint="H"
        title="Drag up or down on the picture: the hue under the pointer prints lighter or darker; where no band covers it, one is made"
        className="mb-1.5 self-stretch"
        onClick={() => store.getState().take({ kind: pulling ? "look" : "hues" })}
      >
        Pull hues on the picture
      </Button>
      <div className="mb-1.5 flex items-center justify-between text-note text-soft">
        <span>
          {bands.length === 0
            ? "No bands yet."
            : bands.length >= most
              ? `${most} bands: no more fit.`
              : `${bands.length} of ${most} bands`}
        </span>
        <LayBands onLaid={put} any={bands.length > 0} />
      </div>
      <ul data-control="light.hue_bands">
        {bands.map((band, index) => (
          <li key={index} className={index === chosen ? "-mx-1.5 rounded bg-well px-1.5 pb-1" : ""}>
            <div className="flex items-center gap-1.5">
              <button
                type="button"
                aria-expanded={index === chosen}
                aria-label={`Shape ${names[index]}`}
                title="Its centre, width and softness"
                onClick={() => choose(index === chosen ? null : index)}
                className={`size-3.5 shrink-0 rounded-full border ${index === chosen ? "border-ink" : "border-transparent"}`}
                style={{ background: hueColour(band.centre) }}
              />
              <div className="min-w-0 flex-1">
                <KindSlider
                  kind="HueBand"
                  title={names[index] ?? ""}
                  field="stops"
                  value={band.stops}
                  show={(v) => signed(v)}
                  onSet={(stops, label) =>
                    set(index, { stops }, label && `${names[index]} ${signed(stops)} stops`)
                  }
                />
              </div>
            </div>
            {index === chosen && (
              <div className="pl-5">
                {(["centre", "width", "softness"] as const).map((part) => (
                  <KindSlider
                    key={part}
                    kind="HueBand"
                    field={part}
                    value={band[part]}
                    show={(v) => (part === "softness" ? v.toFixed(2) : String(Math.round(v)))}
                    onSet={(v, label) =>
                      set(index, { [part]: v }, label && `${names[index]}: ${part}`)
                    }
                  />
                ))}
                <div className="flex justify-end gap-3 text-note text-faint">
                  <button
                    type="button"
                    disabled={bands.length >= most}
                    title="In two bands of half its width, side by side"
                    className="hover:text-ink disabled:opacity-50"
                    onClick={() => put(split(bands, index, least), `${names[index]} split`)}
                  >
                    Split
                  </button>
                  <button
                    type="button"
                    className="hover:text-ink"
                    onClick={() =>
                      put(
                        bands.filter((_, i) => i !== index),
                        `${names[index]} band taken away`,
                      )
                    }
                  >
                    Take away
                  </button>
                </div>
              </div>
            )}
          </li>
        ))}
      </ul>
      <Heading>Colour separation</Heading>
      {(["green_magenta", "blue_yellow"] as const).map((name) => (
        <StationSlider
          key={name}
          station="light"
          field={name}
          show={(v) => signed(v)}
          label={(v) =>
            `${name === "green_magenta" ? "Green and magenta" : "Blue and yellow"} ${v < 0 ? "together" : "apart"} ${signed(v)}`
          }
        />
      ))}
      <StationSlider
        station="light"
        field="hue_shift"
        show={(v) => signed(v, 0)}
        label={(v) => `Hue shift ${signed(v, 0)}°`}
      />
    </>
  );
}

/** A band as it is to begin with. */
function newBand(schema: ReturnType<typeof useTray>["schema"]): HueBand {
  const of = (name: string) => Number(fieldOfKind(schema, "HueBand", name).default);
  return { stops: of("stops"), centre: of("centre"), width: of("width"), softness: of("softness") };
}

interface LayBandsProps {
  onLaid: (bands: HueBand[], label: string) => void;
  any: boolean;
}

/** Lays bands where the picture's hues are, or evenly. */
function LayBands({ onLaid, any }: LayBandsProps) {
  const store = useBenchStore();
  const [open, setOpen] = useState(false);
  const lay = async (even: number | null) => {
    const { frame, recipe, tell } = store.getState();
    setOpen(false);
    try {
      const { bands } = await api.hueBands(frame.id, recipe, even);
      onLaid(bands, even ? `${even} even hue bands` : "Hue bands laid on the picture's hues");
    } catch (error) {
      tell(error);
    }
  };
  const item = "block w-full rounded-[3px] px-2 py-1 text-left hover:bg-raise";
  return (
    <Menu
      label="Lay hue bands"
      open={open}
      onOpen={setOpen}
      align="end"
      className="w-56"
      opens={
        <button type="button" className="text-soft hover:text-ink">
          Lay bands ▾
        </button>
      }
    >
      <button type="button" className={item} onClick={() => lay(null)}>
        Where the picture has hues
      </button>
      {EVEN.map((count) => (
        <button key={count} type="button" className={item} onClick={() => lay(count)}>
          {count} even ones
        </button>
      ))}
      {any && (
        <button
          type="button"
          className={`${item} mt-1 border-line border-t`}
          onClick={() => {
            setOpen(false);
            onLaid([], "No hue bands");
          }}
        >
          Take all away
        </button>
      )}
    </Menu>
  );
}
