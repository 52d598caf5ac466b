import type { Gesture } from "../gestures";
import type { Point } from "../places";

interface DrawingProps {
  gesture: Gesture;
  /** In the browser's window. */
  points: Point[];
  from: DOMRect | undefined;
  /** CSS pixels a pixel of the picture. */
  scale: number;
}

/** What a tool is drawing on the picture just now. */
export function Drawing({ gesture, points, from, scale }: DrawingProps) {
  const own = points.map((p) => ({ x: p.x - (from?.left ?? 0), y: p.y - (from?.top ?? 0) }));
  const [first, last] = [own[0], own.at(-1)];
  if (!first || !last) return null;
  const line = own.map((p) => `${p.x},${p.y}`).join(" ");
  const amber = { fill: "none", stroke: "#e8a24a", strokeWidth: 1.5 };
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      {gesture.kind === "line" && <polyline points={line} {...amber} />}
      {gesture.kind === "area" && (
        <circle
          cx={first.x}
          cy={first.y}
          r={Math.hypot(last.x - first.x, last.y - first.y)}
          {...amber}
          fill="#fff2"
        />
      )}
      {gesture.kind === "path" && gesture.width === null && (
        <polygon points={line} fill="#fff1" stroke="#fff" strokeDasharray="5 3" />
      )}
      {gesture.kind === "path" && gesture.width !== null && (
        <polyline
          points={line}
          {...amber}
          strokeOpacity={0.35}
          strokeWidth={Math.max(2, gesture.width * scale)}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      )}
    </svg>
  );
}
