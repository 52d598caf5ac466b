import { useBenchStore, useTray } from "../../state/bench";
import { share } from "../../wording/format";
import { StationSlider } from "./parts";

const WORTH_SAYING = 0.002;

/** Where noise of colour becomes noise of tone, and what helps. */
export function Breaking() {
  const tray = useTray();
  const { recipe, reading } = tray;
  const store = useBenchStore();
  const onBreaking = (on: boolean) => store.setState({ peek: on ? "breaking" : null });
  const smoothing = recipe.light.chroma_smoothing;
  const part = reading?.breaking ?? 0;
  if (part < WORTH_SAYING && smoothing === 0) return null;
  return (
    <div className="mt-2 border-t border-line pt-1.5">
      {part >= WORTH_SAYING ? (
        <p className="flex items-baseline justify-between gap-2 text-note">
          <span className="text-loss">Breaking up: {share(part)}</span>
          <button
            type="button"
            title="There the picture's noise of colour becomes noise of tone that is seen. Hold to see where"
            onPointerDown={() => onBreaking(true)}
            onPointerUp={() => onBreaking(false)}
            onPointerLeave={() => onBreaking(false)}
            onKeyDown={(event) => event.key === " " && onBreaking(true)}
            onKeyUp={() => onBreaking(false)}
            onBlur={() => onBreaking(false)}
            className="text-soft hover:text-ink"
          >
            Hold to see where
          </button>
        </p>
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
