import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { share, shutter, signed } from "../../wording/format";
import { Heading, StationSlider } from "./parts";
import type { TrayProps } from "./tray";

/** The Capture station: how the file becomes light. */
export function CaptureControls(tray: TrayProps) {
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
