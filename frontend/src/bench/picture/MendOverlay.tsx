import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { WAYS } from "../arrows";
import {
  middleOf,
  type PicturePlace,
  type Placed,
  picturePlace,
  pictureToWindow,
  type WindowPlace,
  windowPlace,
  windowToPicture,
} from "../places";

/** A mend as it lies on the finished picture. */
interface Mend {
  places: PicturePlace[];
  radius: number;
  fill: boolean;
}
type Speck = Schemas["FoundSpeck"];

interface MendOverlayProps {
  at: Placed;
  mends: Mend[];
  /** Outlines that mends leave as they are. */
  outlines: PicturePlace[][];
  /** Probable dust. */
  specks: Speck[];
  /** Another source for a mend. */
  onSource: (index: number, source: PicturePlace) => void;
  onRemove: (index: number) => void;
  onFree: (index: number) => void;
  onAccept: (speck: Speck) => void;
}

const AMBER = "#e8a24a";
const removes = (event: React.KeyboardEvent) => {
  if (event.key !== "Delete" && event.key !== "Backspace") return false;
  event.preventDefault();
  event.stopPropagation();
  return true;
};

/** Mends, protections and probable dust on the picture: drag from a mend to choose another source,
 * double-click to take it away; click on probable dust to mend it. */
export function MendOverlay(props: MendOverlayProps) {
  const { at, mends, outlines, specks, onSource, onRemove, onFree, onAccept } = props;
  const held = useRef<number | null>(null);
  const [to, setTo] = useState<WindowPlace | null>(null);
  const box = useRef<SVGSVGElement>(null);
  const under = (event: React.PointerEvent): WindowPlace => {
    const rect = box.current?.getBoundingClientRect();
    return windowPlace(event.clientX - (rect?.left ?? 0), event.clientY - (rect?.top ?? 0));
  };
  const line = (places: PicturePlace[]) =>
    places
      .map((place) => pictureToWindow(at, place))
      .map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`)
      .join(" ");
  const startOf = ({ places: [first] }: Mend) => pictureToWindow(at, first ?? picturePlace(0, 0));
  const reach = (mend: Mend) => Math.max(mend.radius * at.scale, 5);
  const dragged = held.current === null ? null : mends[held.current];
  const start = dragged && startOf(dragged);
  return (
    <svg ref={box} className="pointer-events-none absolute inset-0 size-full" aria-label="Mends">
      {outlines.map((points, index) => (
        <polygon
          // by place in the recipe
          key={index}
          role="button"
          aria-label={`Protection ${index + 1}`}
          tabIndex={0}
          points={line(points)}
          fill="none"
          stroke="#fff"
          strokeDasharray="5 3"
          className="pointer-events-auto cursor-pointer [pointer-events:stroke]"
          onPointerDown={(event) => event.stopPropagation()}
          onKeyDown={(event) => removes(event) && onFree(index)}
          onDoubleClick={() => onFree(index)}
        >
          <title>No mend changes what is inside; double-click takes it away</title>
        </polygon>
      ))}
      {mends.map((mend, index) => {
        const { x, y } = startOf(mend);
        const strokes = mend.places.length > 1;
        const shape = {
          role: "button",
          "aria-label": `${mend.fill ? "Filling" : strokes ? "Stroke" : "Mend"} ${index + 1}`,
          tabIndex: 0,
          stroke: AMBER,
          className: "pointer-events-auto cursor-grab",
          onKeyDown: (event: React.KeyboardEvent) => {
            if (removes(event)) return onRemove(index);
            // arrows lead to another source, Enter takes it
            const way = WAYS[event.key];
            const now = held.current === index ? to : null;
            if (way && !mend.fill) {
              const by = event.shiftKey ? 20 : 2;
              const from = now ?? windowPlace(x + 3 * reach(mend), y);
              held.current = index;
              setTo(windowPlace(from.x + way[0] * by, from.y + way[1] * by));
            } else if (now && (event.key === "Enter" || event.key === "Escape")) {
              held.current = null;
              setTo(null);
              if (event.key === "Enter") onSource(index, windowToPicture(at, now));
            } else return;
            event.preventDefault();
            event.stopPropagation();
          },
          onBlur: () => {
            if (held.current === index) setTo(null);
            held.current = null;
          },
          onPointerDown: (event: React.PointerEvent) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
            held.current = index;
          },
          onPointerMove: (event: React.PointerEvent) => {
            if (held.current === index && !mend.fill) setTo(under(event));
          },
          onPointerUp: (event: React.PointerEvent) => {
            event.stopPropagation();
            const end = under(event);
            const was = to;
            held.current = null;
            setTo(null);
            if (was && Math.hypot(end.x - x, end.y - y) > Math.max(reach(mend), 6)) {
              onSource(index, windowToPicture(at, end));
            }
          },
          onDoubleClick: (event: React.MouseEvent) => {
            event.stopPropagation();
            onRemove(index);
          },
        };
        // by place in the recipe
        return strokes ? (
          <polyline
            key={index}
            {...shape}
            points={line(mend.places)}
            fill="none"
            strokeWidth={2 * reach(mend)}
            strokeOpacity={0.28}
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        ) : (
          <circle
            key={index}
            {...shape}
            cx={x}
            cy={y}
            r={reach(mend)}
            fill="transparent"
            strokeOpacity={0.8}
          />
        );
      })}
      {specks.map((speck) => {
        const { x, y } = pictureToWindow(at, middleOf(picturePlace(speck.at_x, speck.at_y)));
        const seen = speck.elsewhere
          ? `, on ${speck.elsewhere} other frame${speck.elsewhere > 1 ? "s" : ""} too`
          : "";
        return (
          <circle
            key={`${speck.x} ${speck.y}`}
            role="button"
            aria-label="Probable dust: mend it"
            tabIndex={0}
            cx={x}
            cy={y}
            r={Math.max(speck.radius * at.scale, 7)}
            fill="transparent"
            stroke="#fff"
            strokeDasharray="2 2.5"
            className="pointer-events-auto cursor-pointer hover:stroke-amber"
            onPointerDown={(event) => event.stopPropagation()}
            onPointerUp={(event) => {
              event.stopPropagation();
              onAccept(speck);
            }}
            onKeyDown={(event) => event.key === "Enter" && onAccept(speck)}
          >
            <title>{`Probable dust, ${Math.round(speck.likely * 100)} %${seen}; click mends it`}</title>
          </circle>
        );
      })}
      {to && dragged && start && (
        <g stroke={AMBER} fill="none">
          <line x1={start.x} y1={start.y} x2={to.x} y2={to.y} />
          <circle cx={to.x} cy={to.y} r={reach(dragged)} strokeDasharray="3 3" />
        </g>
      )}
    </svg>
  );
}
