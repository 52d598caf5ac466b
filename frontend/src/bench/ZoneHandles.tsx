import { useRef } from "react";
import { itemOf, within } from "../api/client";
import { type Handles, useTray } from "../state/bench";
import { ROMAN, signed } from "../wording/format";

const HEIGHT = 72;
type Lane = Handles | "value_lift";
const LANES = {
  zone_lift: { station: "development", step: "Zone", name: "Lift by zone", done: "lifted" },
  zone_contrast: {
    station: "development",
    step: "Zone",
    name: "Contrast by zone",
    done: "contrast",
  },
  value_lift: { station: "paper", step: "Value", name: "Lift by print value", done: "lifted" },
} as const;

/** Eleven handles over the zone staff: each lifts its zone, or raises the contrast within it. */
export function ZoneHandles({ lane: handles }: { lane: Lane }) {
  const lane = useRef<HTMLDivElement>(null);
  const held = useRef<number | null>(null);
  const { recipe, schema, change } = useTray();
  const { station, step, name, done } = LANES[handles];
  const range = itemOf(schema, station, handles);
  const { minimum: least, maximum: most } = range;
  const unit = range.unit && ` ${range.unit}`;
  const values: number[] =
    handles === "value_lift" ? recipe.paper.value_lift : recipe.development[handles];
  const place = (value: number) => ((most - value) / (most - least)) * (HEIGHT - 16) + 8;
  const label = (zone: number, value: number) => `${step} ${ROMAN[zone]} ${done} ${signed(value)}`;
  const set = (zone: number, value: number, said?: string) => {
    const next = within(Math.round(value / range.step) * range.step, range);
    change(station, { [handles]: values.with(zone, next) }, said);
  };
  const under = (event: React.PointerEvent) => {
    const box = lane.current?.getBoundingClientRect();
    if (!box) return 0;
    return most - ((event.clientY - box.top - 8) / (HEIGHT - 16)) * (most - least);
  };
  const middle = (zone: number) => ((zone + 0.5) / ROMAN.length) * 100;
  return (
    <div className="shrink-0 border-t border-black bg-ground px-3.5 pt-1">
      <div
        ref={lane}
        role="group"
        aria-label={name}
        className="relative touch-none select-none"
        style={{ height: HEIGHT }}
      >
        <svg
          viewBox={`0 0 100 ${HEIGHT}`}
          preserveAspectRatio="none"
          className="absolute inset-0 size-full"
          aria-hidden="true"
        >
          <line
            x1="0"
            x2="100"
            y1={place(0)}
            y2={place(0)}
            stroke="#4d4d4d"
            vectorEffect="non-scaling-stroke"
          />
          <polyline
            points={values.map((v, i) => `${middle(i)},${place(v)}`).join(" ")}
            fill="none"
            stroke="#dcdcdc"
            strokeWidth="1.4"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {values.map((value, zone) => (
          <button
            key={ROMAN[zone]}
            type="button"
            role="slider"
            aria-label={`${step} ${ROMAN[zone]}`}
            aria-valuemin={least}
            aria-valuemax={most}
            aria-valuenow={value}
            aria-valuetext={`${signed(value, 2)}${unit}`}
            title={`${step} ${ROMAN[zone]}: ${signed(value, 2)}${unit}; drag up or down, double-click for none`}
            className="absolute size-3.5 -translate-x-1/2 -translate-y-1/2 cursor-ns-resize rounded-full border-2 border-ground bg-ink hover:bg-white"
            style={{ left: `${middle(zone)}%`, top: place(value) }}
            onDoubleClick={() => set(zone, 0, label(zone, 0))}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              held.current = zone;
            }}
            onPointerMove={(event) => held.current === zone && set(zone, under(event))}
            onPointerUp={(event) => {
              if (held.current !== zone) return;
              held.current = null;
              const next = under(event);
              if (Math.abs(next - value) > 0.01) set(zone, next, label(zone, next));
            }}
            onKeyDown={(event) => {
              const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
              if (by) {
                event.preventDefault();
                const next = value + by * range.step * (event.shiftKey ? 10 : 1);
                set(zone, next, label(zone, next));
              }
              if (event.key === "Delete" || event.key === "Backspace") {
                event.preventDefault();
                set(zone, 0, label(zone, 0));
              }
            }}
          />
        ))}
      </div>
    </div>
  );
}
