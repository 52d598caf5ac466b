import { seconds, signed } from "../../wording/format";
import { StationSlider } from "./parts";
import { STRIP, StripControls } from "./strip";
import type { TrayProps } from "./tray";

const LOG2 = { to: Math.log2, from: (place: number) => 2 ** place };

/** The Enlarger station. */
export function EnlargerControls(tray: TrayProps) {
  const { recipe, facts, change } = tray;
  if (!facts) return null;
  const standard = facts.standard_time;
  const time = recipe.enlarger.time ?? standard;
  const off = Math.log2(time / standard);
  const own = (value: number) =>
    Math.abs(Math.log2(value / standard)) < 0.01 ? null : Number(value.toFixed(2));
  const say = (value: number) =>
    own(value) ? `Base exposure ${seconds(value)} s` : "Standard time";
  const set = (value: number) => change("enlarger", { time: own(value) }, say(value));
  return (
    <>
      <StationSlider
        tray={tray}
        station="enlarger"
        field="time"
        value={time}
        keep={own}
        min={1.5}
        max={96}
        step={1 / 12}
        home={standard}
        scale={LOG2}
        show={seconds}
        label={say}
      />
      <div className="mt-1 flex gap-1">
        {[-1 / 2, -1 / 3, -1 / 6, 1 / 6, 1 / 3, 1 / 2].map((step) => (
          <button
            key={step}
            type="button"
            aria-label={`${Math.abs(step) === 0.5 ? "half" : Math.abs(step) < 0.3 ? "a sixth" : "a third"} stop ${step < 0 ? "less" : "more"}`}
            onClick={() => set(Math.min(Math.max(time * 2 ** step, 1.5), 96))}
            className="flex-1 rounded-[3px] bg-well py-1 text-small text-soft hover:bg-raise hover:text-ink"
          >
            {step < 0 ? "−" : "+"}
            {Math.abs(step) === 0.5 ? "½" : Math.abs(step) < 0.3 ? "⅙" : "⅓"}
          </button>
        ))}
      </div>
      <p className="mt-3 text-note text-soft">
        Standard printing time <b className="font-medium text-ink">{seconds(standard)} s</b>: Zone V
        prints as middle grey, 0.75 above the paper base.
        {Math.abs(off) > 0.02 && ` This is ${signed(off)} stops from it.`}
      </p>
      {recipe.enlarger.time != null && (
        <button
          type="button"
          onClick={() => change("enlarger", { time: null }, "Standard time")}
          className="mt-2 self-start rounded bg-raise px-2.5 py-1 text-note hover:bg-lift"
        >
          Take the standard time
        </button>
      )}
      <StripControls tray={tray} home={STRIP} />
    </>
  );
}
