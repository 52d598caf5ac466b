import { type HTMLAttributes, type RefObject, useRef } from "react";
import type { Point } from "../places";

/** Through which place of the picture, in parts of it, and by how many degrees it is turned from
 * upright. */
export interface WipeLine {
  x: number;
  y: number;
  turned: number;
}
interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

const FAR = 20_000;
const HANDLE = 110;
const STEP = 0.01;
const TURN = 5;
const FAST_TURN = 15;
/** Upright, through the middle. */
export const MIDDLE: WipeLine = { x: 0.5, y: 0.5, turned: 0 };

const directions = (turned: number) => {
  const angle = (turned * Math.PI) / 180;
  // along the line, downwards; and to its left
  return { dx: -Math.sin(angle), dy: Math.cos(angle), nx: -Math.cos(angle), ny: -Math.sin(angle) };
};

/** What of a box lies to the left of a line. */
export function clipOf(line: WipeLine, { width, height }: Pick<Box, "width" | "height">): string {
  const { dx, dy, nx, ny } = directions(line.turned);
  const at = [line.x * width, line.y * height] as const;
  const corner = (along: number, left: number) =>
    `${(at[0] + along * dx + left * nx).toFixed(2)}px ${(at[1] + along * dy + left * ny).toFixed(2)}px`;
  return `polygon(${[corner(-FAR, 0), corner(FAR, 0), corner(FAR, FAR), corner(-FAR, FAR)].join(", ")})`;
}

const inside = (part: number) => Math.min(Math.max(part, 0), 1);
/** From −90 to 90 and on: a line that is turned about shows the other side. */
const turnedTo = (degrees: number) => ((((degrees + 180) % 360) + 360) % 360) - 180;

/** The line of a wipe: its middle is dragged, its end turns it; by keys too. */
export function Wipe({
  line,
  box,
  onMove,
}: {
  line: WipeLine;
  box: Box;
  onMove: (line: WipeLine) => void;
}) {
  const pane = useRef<HTMLDivElement>(null);
  const { dx, dy } = directions(line.turned);
  const x = line.x * box.width;
  const y = line.y * box.height;
  const moved = (along: number) => ({
    ...line,
    x: inside(line.x + along * Math.cos((line.turned * Math.PI) / 180)),
    y: inside(line.y + along * Math.sin((line.turned * Math.PI) / 180)),
  });
  const keys = (event: React.KeyboardEvent) => {
    const move = { ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 0;
    const turn = { ArrowUp: -1, ArrowDown: 1 }[event.key] ?? 0;
    if (!move && !turn && event.key !== "Home") return;
    event.preventDefault();
    event.stopPropagation();
    if (move) onMove(moved(STEP * move * (event.shiftKey ? 10 : 1)));
    else if (turn) {
      onMove({
        ...line,
        turned: turnedTo(line.turned + turn * (event.shiftKey ? FAST_TURN : TURN)),
      });
    } else onMove(MIDDLE);
  };
  const says = `${Math.round(line.x * 100)} % across, ${Math.round(line.y * 100)} % down, turned ${Math.round(line.turned)}°`;
  return (
    <div ref={pane} className="pointer-events-none absolute overflow-hidden" style={box}>
      <svg className="absolute size-full overflow-visible" aria-hidden="true">
        <line
          x1={x - FAR * dx}
          y1={y - FAR * dy}
          x2={x + FAR * dx}
          y2={y + FAR * dy}
          stroke="#f2efe6"
          strokeWidth="1.5"
        />
      </svg>
      <Grip
        title="Drag it to turn the line"
        pane={pane}
        onDrag={(at) =>
          onMove({
            ...line,
            turned: turnedTo((Math.atan2(-(at.x - x), at.y - y) * 180) / Math.PI),
          })
        }
        className="size-4 cursor-grab border-2 bg-[#1118]"
        style={{ left: x + HANDLE * dx, top: y + HANDLE * dy }}
      />
      <Grip
        role="slider"
        tabIndex={0}
        aria-label="Wipe line"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(line.x * 100)}
        aria-valuetext={says}
        title="Drag it; its end turns it. Arrow keys move and turn it, Home brings it back."
        onKeyDown={keys}
        pane={pane}
        onDrag={(at) =>
          onMove({ ...line, x: inside(at.x / box.width), y: inside(at.y / box.height) })
        }
        className="flex size-6 cursor-ew-resize items-center justify-center border bg-[#1b1b1b]"
        style={{ left: x, top: y }}
      >
        <svg viewBox="0 0 14 8" className="w-3.5" aria-hidden="true">
          <path d="M4 1L1 4L4 7M10 1L13 4L10 7" fill="none" stroke="#f2efe6" strokeWidth="1.4" />
        </svg>
      </Grip>
    </div>
  );
}

interface GripProps extends Omit<HTMLAttributes<HTMLDivElement>, "onDrag"> {
  pane: RefObject<HTMLDivElement | null>;
  /** Where the pointer drags it to, from the corner of the pane. */
  onDrag: (at: Point) => void;
}

function Grip({ pane, onDrag, className, ...rest }: GripProps) {
  return (
    <div
      className={`pointer-events-auto absolute -translate-1/2 touch-none rounded-full border-[#f2efe6] ${className}`}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        event.stopPropagation();
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        const at = pane.current?.getBoundingClientRect();
        onDrag({ x: event.clientX - (at?.left ?? 0), y: event.clientY - (at?.top ?? 0) });
      }}
      onPointerUp={(event) => event.stopPropagation()}
      {...rest}
    />
  );
}
