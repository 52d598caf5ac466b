import { Segments } from "../parts/Segments";
import { type Circle, useBench, useBenchStore } from "../state/bench";
import { middleOf, type PicturePlace, type Placed, pictureToWindow, type Size } from "./places";

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
  point: PicturePlace | null;
  radius: number;
}) {
  if (!point) return null;
  const { x, y } = pictureToWindow(at, middleOf(point));
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      <circle
        cx={x}
        cy={y}
        r={Math.max(radius * at.scale, 3)}
        fill="none"
        stroke="#e8a24a"
        strokeWidth={1.5}
      />
    </svg>
  );
}

export function MeterSizes() {
  const store = useBenchStore();
  const circle = useBench((bench) => bench.circle);
  return (
    <div className="absolute top-2 left-1/2 z-20 w-[240px] -translate-x-1/2">
      <Segments
        label="Measuring circle"
        value={circle}
        onChange={(next) => store.setState({ circle: next })}
        options={[
          { value: "small", text: "Small circle" },
          { value: "middle", text: "Middle" },
          { value: "large", text: "Large" },
        ]}
      />
    </div>
  );
}
