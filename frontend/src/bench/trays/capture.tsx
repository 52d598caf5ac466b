import { useState } from "react";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { share, shutter, signed } from "../../wording/format";
import { Heading, StationSlider } from "./parts";
import type { TrayProps } from "./tray";

/** The Capture station: how the file becomes light. */
export function CaptureControls(tray: TrayProps) {
  const part = tray.part.capture;
  return (
    <>
      <div className="mb-3">
        <Segments
          label="Part of the station"
          value={part}
          onChange={(capture) => tray.onPart({ capture })}
          options={[
            { value: "light", text: "Light" },
            { value: "frame", text: "Frame" },
            { value: "spots", text: "Spotting" },
            { value: "lens", text: "Lens" },
          ]}
        />
      </div>
      {part === "light" && <LightOfCapture {...tray} />}
      {part === "frame" && <FrameControls {...tray} />}
      {part === "spots" && <Spotting {...tray} />}
      {part === "lens" && <LensAndFacts {...tray} />}
    </>
  );
}

function LightOfCapture(tray: TrayProps) {
  const { recipe, change, picking, onPicking } = tray;
  const { capture } = recipe;
  return (
    <>
      <StationSlider
        tray={tray}
        station="capture"
        field="exposure"
        value={capture.exposure ?? 0}
        show={(v) => signed(v, 2)}
        label={(v) => `Exposure trim ${signed(v)}`}
      />
      {!capture.infrared && (
        <>
          <Heading aside={capture.balance ? "by a picked neutral" : "from as shot"}>
            White balance
          </Heading>
          {capture.balance ? (
            <p className="text-note text-soft">A picked area is neutral.</p>
          ) : (
            (["warmth", "tint"] as const).map((field) => (
              <StationSlider
                key={field}
                tray={tray}
                station="capture"
                field={field}
                value={capture[field] ?? 0}
                show={(v) => signed(v, field === "tint" ? 2 : 0)}
                label={(v) =>
                  field === "tint" ? `Tint ${signed(v, 2)}` : `Warmth ${signed(v, 0)} mired`
                }
              />
            ))
          )}
          <div className="mt-1 flex items-center gap-3">
            <Button
              pressed={picking}
              title="Click on something grey, or drag from its middle"
              onClick={() => onPicking(!picking)}
            >
              {capture.balance ? "Pick another neutral" : "Pick a neutral"}
            </Button>
            {capture.balance && (
              <button
                type="button"
                onClick={() => change("capture", { balance: null }, "White balance as shot")}
                className="text-note text-faint hover:text-ink"
              >
                As shot
              </button>
            )}
          </div>
        </>
      )}
      <Heading>Flatten first</Heading>
      {(["open_shadows", "rein_highlights"] as const).map((field) => (
        <StationSlider
          key={field}
          tray={tray}
          station="capture"
          field={field}
          value={capture[field] ?? 0}
          show={(v) => v.toFixed(2)}
          label={(v) =>
            `${field === "open_shadows" ? "Shadows opened" : "Highlights reined in"} ${v.toFixed(1)} stops`
          }
        />
      ))}
      <InfraredControls {...tray} />
    </>
  );
}

const RATIOS = [
  { value: "free", text: "free", ratio: null },
  { value: "original", text: "as the frame", ratio: 0 },
  { value: "1:1", text: "1 : 1", ratio: 1 },
  { value: "4:5", text: "4 : 5", ratio: 5 / 4 },
  { value: "3:2", text: "3 : 2", ratio: 3 / 2 },
  { value: "16:9", text: "16 : 9", ratio: 16 / 9 },
  { value: "6:7", text: "6 : 7", ratio: 70 / 56 },
] as const;
const GUIDES = [
  { value: "none", text: "None" },
  { value: "thirds", text: "Thirds" },
  { value: "diagonals", text: "Diagonals" },
  { value: "middle", text: "Middle" },
] as const;

function FrameControls(tray: TrayProps) {
  const { recipe, change, cropping, onCropping, levelling, onLevelling } = tray;
  const { capture } = recipe;
  const turns = capture.quarter_turns ?? 0;
  const turn = (by: 1 | 3) =>
    change(
      "capture",
      { quarter_turns: (turns + by) % 4, crop: null },
      by === 1 ? "Turned right" : "Turned left",
    );
  const [ratio, setRatio] = useState<(typeof RATIOS)[number]["value"]>("free");
  const upright = cropping ? cropping.size.height > cropping.size.width : false;
  const ratioOf = (value: typeof ratio): number | null => {
    const found = RATIOS.find((r) => r.value === value)?.ratio ?? null;
    if (found === null || !cropping) return null;
    if (found === 0) return cropping.size.width / cropping.size.height;
    return upright ? 1 / found : found;
  };
  return (
    <>
      <div className="flex gap-1.5">
        <Button onClick={() => turn(3)} title="A quarter turn against the clock">
          ↺ Left
        </Button>
        <Button onClick={() => turn(1)} title="A quarter turn with the clock">
          ↻ Right
        </Button>
        <Button
          pressed={capture.flip ?? false}
          onClick={() => change("capture", { flip: !capture.flip, crop: null }, "Flipped")}
        >
          Flip
        </Button>
      </div>
      <div className="mt-2">
        <StationSlider
          tray={tray}
          station="capture"
          field="straighten"
          value={capture.straighten ?? 0}
          show={(v) => signed(v, 2)}
          label={(v) => `Straightened ${signed(v, 2)}°`}
        />
      </div>
      <Button
        pressed={levelling}
        title="Draw a line along what should be level or upright"
        onClick={() => onLevelling(!levelling)}
      >
        Draw a level or upright line
      </Button>
      <Heading>Converging lines</Heading>
      {(["keystone_vertical", "keystone_horizontal"] as const).map((field) => (
        <StationSlider
          key={field}
          tray={tray}
          station="capture"
          field={field}
          value={capture[field] ?? 0}
          show={(v) => signed(v, 3)}
          label={(v) =>
            `${field === "keystone_vertical" ? "Upright" : "Level"} lines ${signed(v, 3)}`
          }
        />
      ))}
      <Heading aside={capture.crop ? cropText(capture.crop) : "the whole frame"}>Crop</Heading>
      <div className="flex gap-1.5">
        <Button
          go={cropping !== null}
          onClick={() => onCropping(cropping ? null : { ratio: null, guide: "thirds" })}
        >
          {cropping ? "Done" : "Crop…"}
        </Button>
        {capture.crop && (
          <Button onClick={() => change("capture", { crop: null }, "No crop")}>Whole frame</Button>
        )}
      </div>
      {cropping && (
        <>
          <label className="mt-2 grid h-[27px] grid-cols-[88px_1fr] items-center gap-2 text-[12.5px] text-soft">
            Ratio
            <select
              value={ratio}
              onChange={(event) => {
                const next = event.target.value as typeof ratio;
                setRatio(next);
                onCropping({ ratio: ratioOf(next), guide: cropping.guide });
              }}
              className="rounded-[3px] border border-transparent bg-well px-1.5 py-[3px] text-ink hover:border-lift"
            >
              {RATIOS.map((r) => (
                <option key={r.value} value={r.value}>
                  {r.text}
                </option>
              ))}
            </select>
          </label>
          <div className="mt-1">
            <Segments
              label="Guides"
              value={cropping.guide}
              onChange={(guide) => onCropping({ ratio: cropping.ratio, guide })}
              options={GUIDES}
            />
          </div>
          <p className="mt-1.5 text-note text-soft">
            Drag edges, corners or the inside; Alt keeps the middle. Enter or Done ends it.
          </p>
        </>
      )}
    </>
  );
}

const cropText = ([left = 0, top = 0, right = 1, bottom = 1]: number[]) =>
  `${Math.round((right - left) * 100)} × ${Math.round((bottom - top) * 100)} %`;

const LEAST_MEND = 3;
const MOST_MEND = 200;

function Spotting(tray: TrayProps) {
  const { recipe, change, mendRadius, onMendRadius } = tray;
  const mends = recipe.capture.mends ?? [];
  const set = (radius: number) => onMendRadius(Math.round(radius));
  return (
    <>
      <Slider
        label="Size"
        description="Radius of the next mend"
        value={mendRadius}
        min={LEAST_MEND}
        max={MOST_MEND}
        step={0.05}
        home={14}
        unit="px"
        scale={{ to: Math.log2, from: (place) => 2 ** place }}
        show={(v) => String(Math.round(v))}
        onPreview={set}
        onCommit={set}
      />
      <p className="text-note text-soft">
        Press on a speck: it is repaired from around, in light, before the film. Drag from a mend to
        choose another source; double-click takes it away. Look at 100 % (+).
      </p>
      <div className="mt-2 flex items-center gap-3">
        <span className="text-note text-soft">
          {mends.length === 1 ? "1 mend" : `${mends.length} mends`}
        </span>
        {mends.length > 0 && (
          <Button onClick={() => change("capture", { mends: [] }, "All mends taken away")}>
            Take all away
          </Button>
        )}
      </div>
    </>
  );
}

function LensAndFacts(tray: TrayProps) {
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
      {(["distortion", "lateral_red", "lateral_blue"] as const).map((field) => (
        <StationSlider
          key={field}
          tray={tray}
          station="capture"
          field={field}
          value={recipe.capture[field] ?? 0}
          show={(v) => signed(v, field === "distortion" ? 3 : 4)}
          label={(v) => `${field.replace("_", " ")} ${signed(v, 4)}`}
        />
      ))}
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
              title="Click on sunlit leaves, or drag from their middle: there the three channels become equal"
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
          <Heading>Lens</Heading>
          {(["hot_spot", "hot_spot_size"] as const).map((field) => (
            <StationSlider
              key={field}
              tray={tray}
              station="capture"
              field={field}
              value={recipe.capture[field] ?? 0}
              show={(v) => (field === "hot_spot" ? signed(v, 2) : v.toFixed(2))}
              label={(v) =>
                `Hot spot, ${field === "hot_spot" ? signed(v) : `size ${v.toFixed(2)}`}`
              }
            />
          ))}
        </>
      )}
    </>
  );
}
