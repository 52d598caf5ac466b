import { type Frame, fieldOf, type Recipe, within } from "../../api/client";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { useBench, useBenchStore, useTray } from "../../state/bench";
import { COOLEST, kelvin, share, signed, signedStops, warmthFor } from "../../wording/format";
import { readNumber } from "../../wording/numbers";
import { CapturePlot, ChannelPlot } from "../plots/capture";
import type { Station } from "../station";
import { FrameControls } from "./frame";
import { LensControls } from "./lens";
import { PartChoice } from "./PartChoice";
import { Heading, StationSlider } from "./parts";
import { SpotControls } from "./spots";

/** The Capture station: how the file becomes light. */
function CaptureControls() {
  const tray = useTray();
  const part = tray.parts.capture;
  return (
    <>
      <PartChoice station="capture" />
      {part === "light" && <LightOfCapture />}
      {part === "frame" && <FrameControls />}
      {part === "spots" && <SpotControls />}
      {part === "lens" && <LensControls />}
    </>
  );
}

function LightOfCapture() {
  const tray = useTray();
  const { frame, recipe, change, reading } = tray;
  const { capture } = recipe;
  const infrared = capture.infrared;
  const clipped = reading?.capture_clipped ?? 0;
  return (
    <>
      <Segments
        label="Kind of capture"
        control="capture.infrared"
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
      <div className="mt-2">
        <StationSlider
          station="capture"
          field="exposure"
          show={signedStops}
          label={(v) => `Exposure trim ${signedStops(v)}`}
        />
        <StationSlider
          station="capture"
          field="recover_highlights"
          title="Recover"
          show={(v) => v.toFixed(2)}
          label={(v) => `Highlights recovered ${v.toFixed(2)}`}
        />
      </div>
      {infrared ? <Channels /> : <WhiteBalance />}
      {(frame.kind !== "raw" || capture.camera_curve > 0) && (
        <>
          <Heading aside="of a finished file">Camera's curve</Heading>
          <StationSlider
            station="capture"
            field="camera_curve"
            title="Taken back"
            unit="%"
            show={(v) => String(Math.round(v * 100))}
            read={(text) => (readNumber(text, "%") ?? Number.NaN) / 100}
            label={(v) => `Camera's curve taken back by ${Math.round(v * 100)} %`}
          />
        </>
      )}
      <Heading>Flatten first</Heading>
      {(["open_shadows", "rein_highlights"] as const).map((field) => (
        <StationSlider
          key={field}
          station="capture"
          field={field}
          show={(v) => v.toFixed(2)}
          label={(v) =>
            `${field === "open_shadows" ? "Shadows opened" : "Highlights reined in"} ${v.toFixed(1)} stops`
          }
        />
      ))}
      {clipped > 0 && (
        <p className="mt-2 text-note text-soft">{share(clipped)} of it is clipped in a channel.</p>
      )}
    </>
  );
}

/** The tool that picks a neutral. */
function usePicker() {
  const store = useBenchStore();
  const picking = useBench((bench) => bench.tool.kind === "neutral");
  const onPicking = () => store.getState().take({ kind: picking ? "look" : "neutral" });
  return { picking, onPicking };
}

const WARMEST = 1800;

/** The temperature of the light that becomes neutral, and tint; or a picked neutral. */
function WhiteBalance() {
  const tray = useTray();
  const { frame, recipe, change, schema } = tray;
  const { capture } = recipe;
  const shot = frame.metadata.temperature;
  const { picking, onPicking } = usePicker();
  const warmth = fieldOf(schema, "capture", "warmth");
  const text = (v: number) => String(kelvin(shot, v));
  return (
    <>
      <Heading aside={capture.balance ? "by a picked neutral" : `as shot ${kelvin(shot)} K`}>
        White balance
      </Heading>
      {capture.balance ? (
        <p className="text-note text-soft">A picked area is neutral.</p>
      ) : (
        <>
          <StationSlider
            station="capture"
            field="warmth"
            title="Temperature"
            unit="K"
            min={within(Math.ceil(warmthFor(shot, WARMEST)), warmth)}
            max={within(Math.floor(warmthFor(shot, COOLEST)), warmth)}
            show={text}
            read={(typed) => {
              const k = readNumber(typed, "K");
              return k && k > 0 ? Math.round(warmthFor(shot, k) * 10) / 10 : Number.NaN;
            }}
            label={(v) => `Temperature ${text(v)} K`}
          />
          <StationSlider
            station="capture"
            field="tint"
            show={(v) => signed(v, 2)}
            label={(v) => `Tint ${signed(v, 2)}`}
          />
        </>
      )}
      <div className="mt-1 flex items-center gap-3">
        <Button
          data-control="capture.balance"
          pressed={picking}
          title="Click on something grey, or drag from its middle"
          onClick={onPicking}
        >
          {capture.balance ? "Pick another neutral" : "Pick a neutral"}
        </Button>
        {Boolean(capture.balance || capture.warmth || capture.tint) && (
          <button
            type="button"
            onClick={() =>
              change("capture", { balance: null, warmth: 0, tint: 0 }, "White balance as shot")
            }
            className="text-note text-faint hover:text-ink"
          >
            As shot
          </button>
        )}
      </div>
    </>
  );
}

/** Of an infrared capture: its neutral, and how much each channel counts. */
function Channels() {
  const tray = useTray();
  const { recipe, change } = tray;
  const { neutral, swap } = recipe.capture;
  const { picking, onPicking } = usePicker();
  return (
    <>
      <Heading aside={neutral ? "a picked neutral" : undefined}>Channels</Heading>
      <p className="mb-1.5 text-note text-soft">
        Weighed directly: light, glass and the film's colours do not act.
      </p>
      <div className="flex items-center gap-2">
        <Button
          data-control="capture.neutral"
          pressed={picking}
          title="Click on sunlit leaves, or drag from their middle: there the three channels become equal"
          onClick={onPicking}
        >
          {neutral ? "Pick another neutral" : "Pick a neutral"}
        </Button>
        <Button
          data-control="capture.swap"
          pressed={swap}
          title="Red and blue of the capture changed over"
          onClick={() =>
            change("capture", { swap: !swap }, swap ? "Channels as taken" : "Channels swapped")
          }
        >
          Red ↔ blue
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
            station="capture"
            field={field}
            show={(v) => v.toFixed(2)}
            label={(v) => `Channel ${field} ${v.toFixed(2)}`}
          />
        ))}
      </div>
    </>
  );
}

const KINDS: Record<string, string> = { raw: "Raw", merged: "Merged" };

function balanceOf({ capture }: Recipe, frame: Frame): string {
  if (capture.infrared) return "infrared";
  if (capture.balance) return "picked neutral";
  return capture.warmth ? `${kelvin(frame.metadata.temperature, capture.warmth)} K` : "as shot";
}

export const station: Station = {
  title: "Capture",
  about: "The file becomes linear light.",
  plot: CapturePlot,
  says: (recipe, _, __, frame) =>
    `${KINDS[frame.kind] ?? frame.kind.toUpperCase()} · ${balanceOf(recipe, frame)} · ${signedStops(recipe.capture.exposure)} stops`,
  below: (parts) => (parts.capture === "light" ? ChannelPlot : null),
  Controls: CaptureControls,
  ring: ["capture.exposure", null],
};
