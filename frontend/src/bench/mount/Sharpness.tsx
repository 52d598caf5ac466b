import { Segments } from "../../parts/Segments";
import { useTray } from "../../state/bench";
import { HoldToSee, StationSlider } from "../trays/parts";

/** Presentation sharpening: the last thing that is done to tones. */
export function Sharpness() {
  const { recipe, change } = useTray();
  const { mount } = recipe;
  return (
    <>
      <StationSlider
        station="mount"
        field="sharpen"
        title="Amount"
        show={(v) => v.toFixed(2)}
        label={(v) => `Sharpening ${v.toFixed(2)}`}
      />
      {(["sharpen_radius", "sharpen_threshold", "sharpen_edges"] as const).map((field) => (
        <StationSlider
          key={field}
          station="mount"
          field={field}
          show={(v) => v.toFixed(field === "sharpen_threshold" ? 1 : 2)}
          label={(v) => `${NAMES[field]} ${v.toFixed(2)}`}
        />
      ))}
      <div className="mt-1 grid grid-cols-[92px_1fr] items-center gap-2 text-[12.5px] text-soft">
        For
        <Segments
          label="For"
          control="mount.sharpen_for"
          value={mount.sharpen_for}
          onChange={(to) =>
            change("mount", { sharpen_for: to }, `Sharpened for ${to === "paper" ? to : "screens"}`)
          }
          options={[
            { value: "paper", text: "paper" },
            { value: "screen", text: "screens" },
          ]}
        />
      </div>
      <div className="mt-2">
        <HoldToSee peek="edges" title="What is taken for an edge is white">
          <span>Edges</span>
        </HoldToSee>
      </div>
      <p className="mt-2 text-note text-soft">
        To be judged at 100 % and at reading distance. It draws the edges of the whole picture; the
        sharpness of a thing in it is a pass of the printing map.
      </p>
    </>
  );
}

const NAMES = {
  sharpen_radius: "Radius",
  sharpen_threshold: "Threshold",
  sharpen_edges: "Only edges",
};
