import { Segments } from "../../parts/Segments";
import { useTray } from "../../state/bench";
import { signed } from "../../wording/format";
import { Heading, StationSlider } from "./parts";

/** Haze, soft focus and selective focus. */
export function AirAndFocus() {
  const tray = useTray();
  const { light } = tray.recipe;
  const { change } = tray;
  const two = (v: number) => v.toFixed(2);
  const one = (v: number) => v.toFixed(1);
  return (
    <>
      <StationSlider
        station="light"
        field="haze"
        show={(v) => signed(v, 2)}
        label={(v) => (v < 0 ? `Haze taken off ${two(-v)}` : `Haze ${two(v)}`)}
      />
      <div className="mr-[72px] ml-[96px] flex justify-between text-small text-faint">
        <span>taken off</span>
        <span>laid over</span>
      </div>
      <Heading>Soft focus</Heading>
      <StationSlider
        station="light"
        field="soft_focus"
        show={two}
        label={(v) => `Soft focus ${two(v)}`}
      />
      <StationSlider
        station="light"
        field="soft_size"
        show={one}
        label={(v) => `Soft focus over ${one(v)} %`}
      />
      <Segments
        label="What glows"
        control="light.soft_on"
        value={light.soft_on}
        onChange={(soft_on) =>
          change("light", { soft_on }, soft_on === "all" ? "All light spread" : "Highlights glow")
        }
        options={[
          { value: "all", text: "All light" },
          { value: "highlights", text: "Highlights only" },
        ]}
      />
      <Heading>Selective focus</Heading>
      <StationSlider
        station="light"
        field="focus_blur"
        show={two}
        label={(v) => `Out of focus ${two(v)} %`}
      />
      {light.focus_blur > 0 && (
        <>
          <Segments
            label="What is sharp"
            control="light.focus_shape"
            value={light.focus_shape}
            onChange={(focus_shape) => change("light", { focus_shape }, `Sharp: ${focus_shape}`)}
            options={[
              { value: "oval", text: "An oval" },
              { value: "band", text: "A band" },
            ]}
          />
          {(
            [
              "focus_size",
              "focus_transition",
              ...(light.focus_shape === "band" ? [] : (["focus_aspect"] as const)),
              "focus_angle",
              "focus_x",
              "focus_y",
            ] as const
          ).map((field) => (
            <StationSlider
              key={field}
              station="light"
              field={field}
              value={Number(light[field] ?? 0)}
              show={(v) => (field === "focus_angle" ? signed(v, 0) : two(v))}
              label={(v) => `Focus ${field.replace("focus_", "")} ${two(v)}`}
            />
          ))}
          <p className="text-note text-soft">
            Drag the centre on the picture; its two rings are where sharpness begins to fall, and
            where all is blurred.
          </p>
        </>
      )}
    </>
  );
}
