import { useRef } from "react";
import type { Recipe } from "../api/client";
import type { Change } from "../state/usePrint";
import { ROMAN, signed } from "../wording/format";
import type { Handles } from "./trays/tray";

const HEIGHT = 72;
type Lane = Handles | "value_lift";
const LANES: Record<
  Lane,
  { least: number; most: number; unit: string; step: string; name: string; done: string }
> = {
  zone_lift: {
    least: -2,
    most: 2,
    unit: " stops",
    step: "Zone",
    name: "Lift by zone",
    done: "lifted",
  },
  zone_contrast: {
    least: -1,
    most: 2,
    unit: "",
    step: "Zone",
    name: "Contrast by zone",
    done: "contrast",
  },
  value_lift: {
    least: -1.5,
    most: 1.5,
    unit: "",
    step: "Value",
    name: "Lift by print value",
    done: "lifted",
  },
};

interface ZoneHandlesProps {
  recipe: Recipe;
  handles: Lane;
  change: Change;
}

/** Eleven handles over the zone staff: each lifts its zone, or raises the contrast within it. */
export function ZoneHandles({ recipe, handles, change }: ZoneHandlesProps) {
  const lane = useRef<HTMLDivElement>(null);
  const held = useRef<number | null>(null);
  const { least, most, unit, step, name, done } = LANES[handles];
  const values =
    (handles === "value_lift" ? recipe.paper.value_lift : recipe.development[handles]) ?? [];
  const place = (value: number) => ((most - value) / (most - least)) * (HEIGHT - 16) + 8;
  const label = (zone: number, value: number) => `${step} ${ROMAN[zone]} ${done} ${signed(value)}`;
  const set = (zone: number, value: number, said?: string) => {
    const within = Math.min(Math.max(Math.round(value * 12) / 12, least), most);
    const next = values.map((v, i) => (i === zone ? within : v));
    if (handles === "value_lift") change("paper", { value_lift: next }, said);
    else change("development", { [handles]: next }, said);
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
                const next = value + (by * (event.shiftKey ? 10 : 1)) / 12;
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
