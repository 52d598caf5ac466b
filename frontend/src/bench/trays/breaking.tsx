import { useTray } from "../../state/bench";
import { share } from "../../wording/format";
import { HoldToSee, StationSlider } from "./parts";

const WORTH_SAYING = 0.002;

/** Where noise of colour becomes noise of tone, and what helps. */
export function Breaking() {
  const tray = useTray();
  const { recipe, reading } = tray;
  const smoothing = recipe.light.chroma_smoothing;
  const part = reading?.breaking ?? 0;
  if (part < WORTH_SAYING && smoothing === 0) return null;
  return (
    <div className="mt-2 border-t border-line pt-1.5">
      {part >= WORTH_SAYING ? (
        <HoldToSee
          peek="breaking"
          title="There the picture's noise of colour becomes noise of tone that is seen"
        >
          <span className="text-loss">Breaking up: {share(part)}</span>
        </HoldToSee>
      ) : (
        <p className="text-note text-soft">Nothing breaks up.</p>
      )}
      <StationSlider
        station="light"
        field="chroma_smoothing"
        value={smoothing}
        show={(v) => v.toFixed(2)}
        label={(v) => `Colours smoothed ${v.toFixed(2)}`}
      />
    </div>
  );
}
