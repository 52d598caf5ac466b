import { Segments } from "../../parts/Segments";
import { signed } from "../../wording/format";
import { Heading, StationSlider } from "./parts";
import type { TrayProps } from "./tray";

/** Haze, soft focus and selective focus. */
export function AirAndFocus(tray: TrayProps) {
  const { light } = tray.recipe;
  const { change } = tray;
  const two = (v: number) => v.toFixed(2);
  const one = (v: number) => v.toFixed(1);
  return (
    <>
      <StationSlider
        tray={tray}
        station="light"
        field="haze"
        value={light.haze ?? 0}
        show={(v) => signed(v, 2)}
        label={(v) => (v < 0 ? `Haze taken off ${two(-v)}` : `Haze ${two(v)}`)}
      />
      <div className="mr-[72px] ml-[96px] flex justify-between text-small text-faint">
        <span>taken off</span>
        <span>laid over</span>
      </div>
      <Heading>Soft focus</Heading>
      <StationSlider
        tray={tray}
        station="light"
        field="soft_focus"
        value={light.soft_focus ?? 0}
        show={two}
        label={(v) => `Soft focus ${two(v)}`}
      />
      <StationSlider
        tray={tray}
        station="light"
        field="soft_size"
        value={light.soft_size ?? 1}
        show={one}
        label={(v) => `Soft focus over ${one(v)} %`}
      />
      <Segments
        label="What glows"
        value={light.soft_on ?? "all"}
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
        tray={tray}
        station="light"
        field="focus_blur"
        value={light.focus_blur ?? 0}
        show={two}
        label={(v) => `Out of focus ${two(v)} %`}
      />
      {(light.focus_blur ?? 0) > 0 && (
        <>
          <Segments
            label="What is sharp"
            value={light.focus_shape ?? "oval"}
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
              tray={tray}
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
