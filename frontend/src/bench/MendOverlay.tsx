import { useRef, useState } from "react";
import type { LiveFrame } from "../api/client";
import type { Placed } from "./PictureView";
import type { Point } from "./views";

interface MendOverlayProps {
  at: Placed;
  mends: LiveFrame["mends"];
  /** Another source for a mend, in pixels of the finished picture. */
  onSource: (index: number, source: Point) => void;
  onRemove: (index: number) => void;
}

/** The mends of a picture: drag from one to choose another source, double-click to take it away. */
export function MendOverlay({ at, mends, onSource, onRemove }: MendOverlayProps) {
  const held = useRef<number | null>(null);
  const [to, setTo] = useState<Point | null>(null);
  const box = useRef<SVGSVGElement>(null);
  const under = (event: React.PointerEvent): Point => {
    const rect = box.current?.getBoundingClientRect();
    return { x: event.clientX - (rect?.left ?? 0), y: event.clientY - (rect?.top ?? 0) };
  };
  const place = (mend: Point): Point => ({
    x: at.left + (mend.x + 0.5) * at.scale,
    y: at.top + (mend.y + 0.5) * at.scale,
  });
  const dragged = held.current === null ? null : mends[held.current];
  return (
    <svg ref={box} className="pointer-events-none absolute inset-0 size-full" aria-label="Mends">
      {mends.map((mend, index) => {
        const { x, y } = place(mend);
        return (
          <circle
            // by place in the recipe
            key={index}
            role="button"
            aria-label={`Mend ${index + 1}`}
            tabIndex={0}
            onKeyDown={(event) => {
              if (event.key !== "Delete" && event.key !== "Backspace") return;
              event.preventDefault();
              event.stopPropagation();
              onRemove(index);
            }}
            cx={x}
            cy={y}
            r={Math.max(mend.radius * at.scale, 5)}
            fill="transparent"
            stroke="#e8a24a"
            strokeOpacity={0.8}
            className="pointer-events-auto cursor-grab"
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              held.current = index;
            }}
            onPointerMove={(event) => held.current === index && setTo(under(event))}
            onPointerUp={(event) => {
              event.stopPropagation();
              const end = under(event);
              held.current = null;
              setTo(null);
              if (Math.hypot(end.x - x, end.y - y) > Math.max(mend.radius * at.scale, 6)) {
                onSource(index, {
                  x: (end.x - at.left) / at.scale,
                  y: (end.y - at.top) / at.scale,
                });
              }
            }}
            onDoubleClick={(event) => {
              event.stopPropagation();
              onRemove(index);
            }}
          />
        );
      })}
      {to && dragged && (
        <g stroke="#e8a24a" fill="none">
          <line x1={place(dragged).x} y1={place(dragged).y} x2={to.x} y2={to.y} />
          <circle
            cx={to.x}
            cy={to.y}
            r={Math.max(dragged.radius * at.scale, 5)}
            strokeDasharray="3 3"
          />
        </g>
      )}
    </svg>
  );
}
