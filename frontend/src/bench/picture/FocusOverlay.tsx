import { useRef } from "react";
import { sizeOf, useBench } from "../../state/bench";
import { type Placed, picturePlace, pictureToWindow } from "../places";

/** What selective focus keeps sharp, on the picture: its centre is dragged. */
export function FocusOverlay({ at }: { at: Placed }) {
  const frame = useBench(sizeOf);
  const { light, change } = useBench(({ recipe, change }) => ({ light: recipe.light, change }));
  const held = useRef<{ x: number; y: number; pointer: [number, number] } | null>(null);
  const { focus_x, focus_y, focus_size, focus_transition, focus_aspect, focus_angle, focus_shape } =
    light;
  const long = Math.max(frame.width, frame.height) * at.scale;
  const { x, y } = pictureToWindow(at, picturePlace(focus_x * frame.width, focus_y * frame.height));
  const rings = [focus_size, focus_size + focus_transition].map((r) => r * long);
  const moved = (event: React.PointerEvent) => {
    const began = held.current;
    if (!began) return null;
    const share = (start: number, by: number, side: number) =>
      Math.min(Math.max(start + by / (side * at.scale), 0), 1);
    return {
      focus_x: share(began.x, event.clientX - began.pointer[0], frame.width),
      focus_y: share(began.y, event.clientY - began.pointer[1], frame.height),
    };
  };
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full overflow-hidden"
      aria-hidden="true"
    >
      <g transform={`translate(${x} ${y}) rotate(${focus_angle})`} fill="none">
        {rings.map((r, i) =>
          focus_shape === "band" ? (
            <g key={i} stroke="#fff" strokeOpacity={0.75} strokeDasharray={i ? "5 5" : undefined}>
              <line x1={-3000} x2={3000} y1={-r} y2={-r} />
              <line x1={-3000} x2={3000} y1={r} y2={r} />
            </g>
          ) : (
            <ellipse
              key={i}
              rx={r}
              ry={r * focus_aspect}
              stroke="#fff"
              strokeOpacity={0.75}
              strokeDasharray={i ? "5 5" : undefined}
            />
          ),
        )}
      </g>
      <circle
        cx={x}
        cy={y}
        r={8}
        fill="#111a"
        stroke="#e8a24a"
        strokeWidth={2}
        className="pointer-events-auto cursor-move"
        onPointerDown={(event) => {
          event.stopPropagation();
          event.currentTarget.setPointerCapture(event.pointerId);
          held.current = { x: focus_x, y: focus_y, pointer: [event.clientX, event.clientY] };
        }}
        onPointerMove={(event) => {
          event.stopPropagation();
          const next = moved(event);
          if (next) change("light", next);
        }}
        onPointerUp={(event) => {
          event.stopPropagation();
          const next = moved(event);
          held.current = null;
          if (next) change("light", next, "Focus moved");
        }}
      />
    </svg>
  );
}
