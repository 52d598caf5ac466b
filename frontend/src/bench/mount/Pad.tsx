import { useRef, useState } from "react";
import type { Ink } from "../../api/types";
import { Button } from "../../parts/Button";

const WIDTH = 272;
const HEIGHT = 110;
const LEAST = 1.5; // px between points that are kept
const MOST_POINTS = 400;
const MOST_STROKES = 60;

type Strokes = [number, number][][];

/** Where a signature is drawn by pointer or pen; what is empty round it is left out. */
export function Pad({ onDone }: { onDone: (ink: Ink | null) => void }) {
  const [strokes, setStrokes] = useState<Strokes>([]);
  const drawing = useRef(false);
  const at = (event: React.PointerEvent<SVGSVGElement>): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    return [
      ((event.clientX - box.left) / box.width) * WIDTH,
      ((event.clientY - box.top) / box.height) * HEIGHT,
    ];
  };
  return (
    <div className="mt-2">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label="Draw the signature here"
        className="block w-full cursor-crosshair touch-none rounded bg-[#f4f1e8]"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drawing.current = strokes.length < MOST_STROKES;
          if (drawing.current) setStrokes([...strokes, [at(event)]]);
        }}
        onPointerMove={(event) => {
          if (!drawing.current) return;
          const [x, y] = at(event);
          const last = strokes.at(-1);
          const [lx = 0, ly = 0] = last?.at(-1) ?? [];
          if (!last || Math.hypot(x - lx, y - ly) < LEAST || last.length >= MOST_POINTS) return;
          setStrokes([...strokes.slice(0, -1), [...last, [x, y]]]);
        }}
        onPointerUp={() => {
          drawing.current = false;
        }}
      >
        {strokes.map((stroke, index) => (
          <polyline
            key={index}
            points={stroke.map((point) => point.join(",")).join(" ")}
            fill="none"
            stroke="#2a2a2a"
            strokeWidth={1.8}
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        ))}
      </svg>
      <div className="mt-1.5 flex gap-1.5">
        <Button go disabled={!strokes.length} onClick={() => onDone(inkOf(strokes))}>
          Use it
        </Button>
        <Button disabled={!strokes.length} onClick={() => setStrokes([])}>
          Again
        </Button>
        <Button onClick={() => onDone(null)}>Leave</Button>
      </div>
    </div>
  );
}

/** Strokes without the empty room about them, in parts of their height. */
function inkOf(strokes: Strokes): Ink {
  const points = strokes.flat();
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const wide = Math.max(...xs) - left;
  // a level line has a height too
  const tall = Math.max(Math.max(...ys) - top, wide / 20, 4);
  const part = (v: number) => Math.round((v / tall) * 1e4) / 1e4;
  return {
    width: Math.max(part(wide), 0.05),
    strokes: strokes.map((stroke) => stroke.map(([x, y]) => [part(x - left), part(y - top)])),
    picture: "",
  };
}
