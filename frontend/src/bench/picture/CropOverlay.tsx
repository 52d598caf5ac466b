import { useRef } from "react";
import type { Guide } from "../../state/bench";
import { byKey, type Crop, HANDLES, type Handle, moved, nameOf } from "../cropping";
import type { Placed, Size } from "../places";

interface CropOverlayProps {
  at: Placed;
  frame: Size;
  crop: Crop;
  /** Width over height in pixels that is kept; null is free. */
  ratio: number | null;
  guide: Guide;
  onCrop: (crop: Crop, done: boolean) => void;
}

/** The crop on the whole frame: edges and corners are dragged, the inside moves it. */
export function CropOverlay({ at, frame, crop, ratio, guide, onCrop }: CropOverlayProps) {
  const held = useRef<{ handle: Handle | null; crop: Crop; x: number; y: number } | null>(null);
  const latest = useRef(crop);
  const wide = frame.width * at.scale;
  const high = frame.height * at.scale;
  const [left, top, right, bottom] = crop;

  const begin = (event: React.PointerEvent, handle: Handle | null) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { handle, crop, x: event.clientX, y: event.clientY };
    latest.current = crop;
  };
  const move = (event: React.PointerEvent) => {
    const now = held.current;
    if (!now) return;
    event.stopPropagation();
    const dx = (event.clientX - now.x) / wide;
    const dy = (event.clientY - now.y) / high;
    latest.current = moved(now.crop, now.handle, [dx, dy], event.altKey, ratio, frame);
    onCrop(latest.current, false);
  };
  const keyed = (event: React.KeyboardEvent, handle: Handle | null) => {
    const by = byKey(event.key, event.shiftKey);
    if (!by) return;
    event.preventDefault();
    onCrop(moved(crop, handle, by, event.altKey, ratio, frame), true);
  };
  const end = (event: React.PointerEvent) => {
    if (!held.current) return;
    event.stopPropagation();
    held.current = null;
    onCrop(latest.current, true);
  };
  const box = {
    x: at.left + left * wide,
    y: at.top + top * high,
    width: (right - left) * wide,
    height: (bottom - top) * high,
  };
  const lines: [number, number, number, number][] =
    guide === "thirds"
      ? [1 / 3, 2 / 3].flatMap((p): [number, number, number, number][] => [
          [p, 0, p, 1],
          [0, p, 1, p],
        ])
      : guide === "diagonals"
        ? [
            [0, 0, 1, 1],
            [1, 0, 0, 1],
          ]
        : guide === "middle"
          ? [
              [0.5, 0, 0.5, 1],
              [0, 0.5, 1, 0.5],
            ]
          : [];
  return (
    <svg
      role="group"
      aria-label="Crop"
      className="absolute inset-0 size-full touch-none"
      onPointerDown={(event) => event.stopPropagation()}
      onPointerMove={move}
      onPointerUp={end}
    >
      <path
        d={`M${at.left} ${at.top}h${wide}v${high}h${-wide}Z M${box.x} ${box.y}v${box.height}h${box.width}v${-box.height}Z`}
        fill="#000"
        fillOpacity={0.55}
        fillRule="evenodd"
      />
      <rect
        {...box}
        fill="transparent"
        stroke="#fff"
        strokeWidth={1}
        className="cursor-move focus-visible:stroke-amber focus-visible:outline-none"
        role="button"
        tabIndex={0}
        aria-label="Crop, moved as a whole by arrow keys"
        onKeyDown={(event) => keyed(event, null)}
        onPointerDown={(event) => begin(event, null)}
      />
      {lines.map(([x1, y1, x2, y2]) => (
        <line
          key={`${x1} ${y1} ${x2} ${y2}`}
          x1={box.x + x1 * box.width}
          y1={box.y + y1 * box.height}
          x2={box.x + x2 * box.width}
          y2={box.y + y2 * box.height}
          stroke="#fff"
          strokeOpacity={0.5}
          className="pointer-events-none"
        />
      ))}
      {HANDLES.map((handle) => {
        const [side, edge] = handle;
        const x = side ? (side === "left" ? box.x : box.x + box.width) : box.x + box.width / 2;
        const y = edge ? (edge === "top" ? box.y : box.y + box.height) : box.y + box.height / 2;
        return (
          <rect
            key={`${side} ${edge}`}
            x={x - 6}
            y={y - 6}
            width={12}
            height={12}
            fill="#e8a24a"
            stroke="#171717"
            style={{ cursor: !edge ? "ew-resize" : !side ? "ns-resize" : "nwse-resize" }}
            className="focus-visible:stroke-white focus-visible:stroke-2 focus-visible:outline-none"
            role="button"
            tabIndex={0}
            aria-label={`Crop, ${nameOf(handle)}, moved by arrow keys`}
            onKeyDown={(event) => keyed(event, handle)}
            onPointerDown={(event) => begin(event, handle)}
          />
        );
      })}
    </svg>
  );
}
