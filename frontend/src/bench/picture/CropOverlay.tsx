import { useRef } from "react";
import type { Guide } from "../../state/bench";
import type { Placed, Size } from "../places";

export type Crop = [number, number, number, number];
const LEAST = 0.02;
const HANDLES = [
  ["left", "top"],
  ["right", "top"],
  ["left", "bottom"],
  ["right", "bottom"],
  ["left", null],
  ["right", null],
  [null, "top"],
  [null, "bottom"],
] as const;
type Handle = (typeof HANDLES)[number];

interface CropOverlayProps {
  at: Placed;
  frame: Size;
  crop: Crop;
  /** Width over height in pixels that is kept; null is free. */
  ratio: number | null;
  guide: Guide;
  onCrop: (crop: Crop, done: boolean) => void;
}

const clamp = (v: number, least: number, most: number) => Math.min(Math.max(v, least), most);

/** A crop with the given ratio (in parts of the frame) about a fixed corner or middle. */
export function withRatio(crop: Crop, ratio: number | null, frame: Size): Crop {
  if (!ratio) return crop;
  const [left, top, right, bottom] = crop;
  const parts = (ratio * frame.height) / frame.width; // width over height, in parts of the frame
  const middle = [(left + right) / 2, (top + bottom) / 2] as const;
  let width = right - left;
  let height = width / parts;
  if (height > bottom - top) {
    height = bottom - top;
    width = height * parts;
  }
  const x = clamp(middle[0] - width / 2, 0, 1 - width);
  const y = clamp(middle[1] - height / 2, 0, 1 - height);
  return [x, y, x + width, y + height];
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
    let [l, t, r, b] = now.crop;
    if (!now.handle) {
      const x = clamp(l + dx, 0, 1 - (r - l));
      const y = clamp(t + dy, 0, 1 - (b - t));
      latest.current = [x, y, x + r - l, y + b - t];
    } else {
      const [side, edge] = now.handle;
      const both = event.altKey; // symmetrical about the middle
      if (side === "left" || (both && side === "right")) {
        l = clamp(l + (side === "left" ? dx : -dx), 0, r - LEAST);
      }
      if (side === "right" || (both && side === "left")) {
        r = clamp(r + (side === "right" ? dx : -dx), l + LEAST, 1);
      }
      if (edge === "top" || (both && edge === "bottom")) {
        t = clamp(t + (edge === "top" ? dy : -dy), 0, b - LEAST);
      }
      if (edge === "bottom" || (both && edge === "top")) {
        b = clamp(b + (edge === "bottom" ? dy : -dy), t + LEAST, 1);
      }
      latest.current = anchored([l, t, r, b], now.handle, both);
    }
    onCrop(latest.current, false);
  };
  /** With a kept ratio the side across follows, from the corner that stays. */
  const anchored = (to: Crop, [side, edge]: Handle, both: boolean): Crop => {
    if (!ratio) return to;
    const [l, t, r, b] = to;
    const parts = (ratio * frame.height) / frame.width;
    let width = r - l;
    let height = b - t;
    if (side && (!edge || width / height >= parts)) height = width / parts;
    else width = height * parts;
    if (height > 1) [width, height] = [parts, 1];
    if (width > 1) [width, height] = [1, 1 / parts];
    const x = both || !side ? (l + r - width) / 2 : side === "left" ? r - width : l;
    const y = both || !edge ? (t + b - height) / 2 : edge === "top" ? b - height : t;
    const x0 = clamp(x, 0, 1 - width);
    const y0 = clamp(y, 0, 1 - height);
    return [x0, y0, x0 + width, y0 + height];
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
        className="cursor-move"
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
            onPointerDown={(event) => begin(event, handle)}
          />
        );
      })}
    </svg>
  );
}
