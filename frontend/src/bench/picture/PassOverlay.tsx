import { useRef } from "react";
import { useBench, useBenchStore } from "../../state/bench";
import { WAYS } from "../arrows";
import {
  type DrawnShape,
  type Grip,
  gripsOf,
  letterOf,
  moved,
  nameOf,
  saidSeconds,
  usePasses,
} from "../passes";
import {
  type CapturePlace,
  capturePlace,
  captureToPicture,
  type Placed,
  pictureToCapture,
  pictureToWindow,
  type WindowPlace,
  windowPlace,
  windowToPicture,
} from "../places";

const NAMES: Record<Grip, string> = { all: "place", end: "size and turn", side: "roundness" };
const AROUND = Array.from({ length: 64 }, (_, i) => (i / 64) * 2 * Math.PI);
const [LINE, WIDE] = [18, 70]; // px that a tag takes
const FAR = 4; // × the long side, how far the lines of a card are drawn

/** The areas of the printing map over the picture: lettered as printers write on a proof; the chosen
 * one's shapes are moved by their handles. */
export function PassOverlay({ at }: { at: Placed }) {
  const store = useBenchStore();
  const { passes, chosen, shape, base } = useBench((bench) => ({
    passes: bench.recipe.enlarger.passes,
    chosen: bench.pass,
    shape: bench.shape,
    base: bench.facts?.time ?? 12,
  }));
  const change = usePasses();
  const held = useRef<{ grip: Grip; which: number; shape: DrawnShape } | null>(null);
  const box = useRef<SVGSVGElement>(null);
  const inWindow = (place: CapturePlace): WindowPlace =>
    pictureToWindow(at, captureToPicture(shape, place));
  const onCapture = (place: WindowPlace): CapturePlace =>
    pictureToCapture(shape, windowToPicture(at, place));
  const under = (event: React.PointerEvent) => {
    const rect = box.current?.getBoundingClientRect();
    return onCapture(
      windowPlace(event.clientX - (rect?.left ?? 0), event.clientY - (rect?.top ?? 0)),
    );
  };
  const long = Math.max(shape.width, shape.height);
  // each where its first shape lies, within sight, and none on another
  const tags: WindowPlace[] = [];
  for (const { shapes } of passes) {
    const { x, y } = inWindow(capturePlace(shapes[0]?.x ?? 0, shapes[0]?.y ?? 0));
    const place = { x: Math.max(x + 9, at.left + 6), y: Math.max(y - 9, at.top + LINE) };
    while (tags.some((t) => Math.abs(t.x - place.x) < WIDE && Math.abs(t.y - place.y) < LINE))
      place.y += LINE;
    tags.push(windowPlace(place.x, place.y));
  }
  return (
    <svg
      ref={box}
      aria-label="Printing map"
      role="group"
      className="pointer-events-none absolute inset-0 size-full overflow-hidden"
    >
      {passes.map((pass, index) => {
        const own = index === chosen;
        const tag = tags[index];
        if (!tag) return null;
        return (
          // by place: the order is what printers go by
          <g key={index} opacity={pass.on ? 1 : 0.4}>
            {own &&
              pass.shapes.map((each, which) => (
                <Outline key={which} shape={each} long={long} inWindow={inWindow} />
              ))}
            <text
              role="button"
              aria-label={`${nameOf(pass, index)}, ${saidSeconds(pass, base)}`}
              aria-pressed={own}
              tabIndex={0}
              x={tag.x}
              y={tag.y}
              className="pointer-events-auto cursor-pointer"
              style={{ paintOrder: "stroke" }}
              fontSize="15"
              fontStyle="italic"
              fontWeight="600"
              fill={own ? "#e8a24a" : "#f2efe6"}
              stroke="#0009"
              strokeWidth="3"
              onPointerDown={(event) => event.stopPropagation()}
              onPointerUp={(event) => {
                event.stopPropagation();
                store.setState({ pass: own ? null : index });
              }}
              onKeyDown={(event) => {
                if (event.key === "Enter") store.setState({ pass: own ? null : index });
                else if (event.key === "Delete") change.remove(index);
                else return;
                event.preventDefault();
                event.stopPropagation();
              }}
            >
              {letterOf(index)} {saidSeconds(pass, base)}
            </text>
          </g>
        );
      })}
      {chosen !== null &&
        passes[chosen]?.shapes.flatMap((each, which) =>
          gripsOf(each).map(({ grip, at: place }) => {
            const { x, y } = inWindow(place);
            return (
              <circle
                key={`${which} ${grip}`}
                role="button"
                aria-label={`${letterOf(chosen)}, ${each.kind} ${which + 1}: ${NAMES[grip]}`}
                tabIndex={0}
                cx={x}
                cy={y}
                r={grip === "all" ? 7 : 5.5}
                fill="#111a"
                stroke="#e8a24a"
                strokeWidth={2}
                className="pointer-events-auto cursor-move"
                onPointerDown={(event) => {
                  event.stopPropagation();
                  event.currentTarget.setPointerCapture(event.pointerId);
                  held.current = { grip, which, shape: each };
                }}
                onPointerMove={(event) => {
                  if (held.current?.grip !== grip || held.current.which !== which) return;
                  event.stopPropagation();
                  change.shape(chosen, which, moved(held.current.shape, grip, under(event)), false);
                }}
                onPointerUp={(event) => {
                  event.stopPropagation();
                  const was = held.current;
                  held.current = null;
                  if (was) change.shape(chosen, which, moved(was.shape, grip, under(event)), true);
                }}
                onKeyDown={(event) => {
                  const way = WAYS[event.key];
                  if (!way) return;
                  event.preventDefault();
                  event.stopPropagation();
                  const by = event.shiftKey ? 20 : 2;
                  const to = onCapture(windowPlace(x + way[0] * by, y + way[1] * by));
                  change.shape(chosen, which, moved(each, grip, to), true);
                }}
              />
            );
          }),
        )}
    </svg>
  );
}

interface OutlineProps {
  shape: DrawnShape;
  long: number;
  inWindow: (place: CapturePlace) => WindowPlace;
}

/** Where an area is full, and where nothing of it is left. */
function Outline({ shape, long, inWindow }: OutlineProps) {
  const line = (places: CapturePlace[]) =>
    places
      .map(inWindow)
      .map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`)
      .join(" ");
  const drawn = { fill: "none", stroke: "#e8a24a", strokeOpacity: 0.9, strokeWidth: 1.5 };
  if (shape.kind === "card") {
    const [dx, dy] = [shape.to_x - shape.x, shape.to_y - shape.y];
    const size = Math.hypot(dx, dy) || 1;
    const [ux, uy] = [(-dy / size) * long * FAR, (dx / size) * long * FAR];
    return [
      [shape.x, shape.y],
      [shape.to_x, shape.to_y],
    ].map(([x = 0, y = 0], i) => {
      // in pieces: what was straight on the capture may be bent by a lens
      const places = Array.from({ length: 41 }, (_, k) => k / 20 - 1).map((part) =>
        capturePlace(x + part * ux, y + part * uy),
      );
      return (
        <polyline
          key={i}
          points={line(places)}
          {...drawn}
          strokeDasharray={i ? "4 4" : undefined}
        />
      );
    });
  }
  const turn = (shape.angle * Math.PI) / 180;
  return [1 - shape.soft / 2, 1 + shape.soft / 2].map((part, i) =>
    part <= 0.02 ? null : (
      <polygon
        key={i}
        points={line(
          AROUND.map((a) => {
            const [u, v] = [Math.cos(a) * shape.width * part, Math.sin(a) * shape.height * part];
            return capturePlace(
              shape.x + u * Math.cos(turn) - v * Math.sin(turn),
              shape.y + u * Math.sin(turn) + v * Math.cos(turn),
            );
          }),
        )}
        {...drawn}
        strokeDasharray={i ? "4 4" : undefined}
      />
    ),
  );
}
