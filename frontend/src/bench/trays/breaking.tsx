import { share } from "../../wording/format";
import { StationSlider } from "./parts";
import type { TrayProps } from "./tray";

const WORTH_SAYING = 0.002;

/** Where noise of colour becomes noise of tone, and what helps. */
export function Breaking(tray: TrayProps) {
  const { recipe, reading, onBreaking } = tray;
  const smoothing = recipe.light.chroma_smoothing ?? 0;
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
        tray={tray}
        station="light"
        field="chroma_smoothing"
        value={smoothing}
        show={(v) => v.toFixed(2)}
        label={(v) => `Colours smoothed ${v.toFixed(2)}`}
      />
    </div>
  );
}
