import { Segments } from "../parts/Segments";
import type { Placed } from "./PictureView";
import type { Point, Size } from "./views";

export type Circle = "small" | "middle" | "large";
/** Radius of the measuring circle, in parts of the long side. */
const RADII: Record<Circle, number> = { small: 0.0017, middle: 0.006, large: 0.02 };

export const radiusOf = (circle: Circle, frame: Size) =>
  Math.min(Math.max(Math.round(RADII[circle] * Math.max(frame.width, frame.height)), 2), 500);

/** The measuring circle about the pointer. */
export function MeterOverlay({
  at,
  point,
  radius,
}: {
  at: Placed;
  point: Point | null;
  radius: number;
}) {
  if (!point) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      <circle
        cx={at.left + (point.x + 0.5) * at.scale}
        cy={at.top + (point.y + 0.5) * at.scale}
        r={Math.max(radius * at.scale, 3)}
        fill="none"
        stroke="#e8a24a"
        strokeWidth={1.5}
      />
    </svg>
  );
}

export function MeterSizes({
  circle,
  onCircle,
}: {
  circle: Circle;
  onCircle: (circle: Circle) => void;
}) {
  return (
    <div className="absolute top-2 left-1/2 z-20 w-[240px] -translate-x-1/2">
      <Segments
        label="Measuring circle"
        value={circle}
        onChange={onCircle}
        options={[
          { value: "small", text: "Small circle" },
          { value: "middle", text: "Middle" },
          { value: "large", text: "Large" },
        ]}
      />
    </div>
  );
}
