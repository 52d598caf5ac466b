import { useRef } from "react";
import type { Pass } from "../../api/client";
import { pointOn, sizeOf, useBench, useBenchStore } from "../../state/bench";
import { seconds } from "../../wording/format";
import { WAYS } from "../arrows";
import {
  LEAST_STOPS,
  letterOf,
  MOST_STOPS,
  nameOf,
  passesOf,
  saidSeconds,
  usePasses,
} from "../map/passes";
import { gripped, gripsOf, type Line, linesOf, tagAt, type Where } from "../map/shapes";
import {
  type PicturePlace,
  type Placed,
  pictureToWindow,
  type WindowPlace,
  windowPlace,
  windowToPicture,
} from "../places";

const [LINE, WIDE] = [18, 70]; // px that a tag takes
const STOP = 120; // px that a tag is dragged for a stop
const STEP = 1 / 12;
const [AMBER, CREAM] = ["#e8a24a", "#f2efe6"];

/** The areas of the printing map over the picture: lettered as printers write on a proof; the chosen
 * one's shapes are moved by their handles. */
export function PassOverlay({ at }: { at: Placed }) {
  const size = useBench(sizeOf);
  const { passes, chosen, shape, base, free } = useBench((bench) => ({
    passes: passesOf(bench.recipe),
    chosen: bench.pass,
    shape: bench.shape,
    base: bench.facts?.time ?? 12,
    free: bench.tool.kind === "look",
  }));
  const box = useRef<SVGSVGElement>(null);
  const where: Where = { shape, size };
  const inWindow = (place: PicturePlace): WindowPlace => pictureToWindow(at, place);
  const under = (event: React.PointerEvent): PicturePlace => {
    const rect = box.current?.getBoundingClientRect();
    return windowToPicture(
      at,
      windowPlace(event.clientX - (rect?.left ?? 0), event.clientY - (rect?.top ?? 0)),
    );
  };
  // each where its first shape lies, within sight, and none on another
  const tags: WindowPlace[] = [];
  for (const { shapes } of passes) {
    const { x, y } = inWindow(tagAt(shapes[0], where));
    const [right, bottom] = [at.left + size.width * at.scale, at.top + size.height * at.scale];
    const place = {
      x: Math.min(Math.max(x + 9, at.left + 6), right - WIDE),
      y: Math.min(Math.max(y - 9, at.top + LINE), bottom - 6),
    };
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
      <clipPath id="on-picture">
        <rect
          x={at.left}
          y={at.top}
          width={size.width * at.scale}
          height={size.height * at.scale}
        />
      </clipPath>
      {passes.map((pass, index) => {
        const tag = tags[index];
        const own = index === chosen;
        if (!tag) return null;
        return (
          // by place: the order is what printers go by
          <g key={index} opacity={pass.on ? 1 : 0.4}>
            <g clipPath="url(#on-picture)">
              {pass.shapes.map((each, which) =>
                linesOf(each, where).map((line, i) => (
                  <Outline
                    key={`${which} ${i}`}
                    line={line}
                    own={own}
                    scale={at.scale}
                    inWindow={inWindow}
                  />
                )),
              )}
            </g>
            <Tag pass={pass} index={index} own={own} tag={tag} base={base} free={free} />
          </g>
        );
      })}
      {chosen !== null &&
        free &&
        passes[chosen]?.shapes.flatMap((each, which) =>
          gripsOf(each, where).map((grip) => (
            <Handle
              key={`${which} ${grip.name}`}
              chosen={chosen}
              which={which}
              name={grip.name}
              at={inWindow(grip.at)}
              where={where}
              under={under}
              toPicture={(place) => windowToPicture(at, place)}
            />
          )),
        )}
      <InHand at={at} inWindow={inWindow} />
    </svg>
  );
}

interface TagProps {
  pass: Pass;
  index: number;
  own: boolean;
  tag: WindowPlace;
  base: number;
  /** Whether no tool is in hand that draws here. */
  free: boolean;
}

/** What a printer writes on the proof: dragged up the area gets lighter, down darker. */
function Tag({ pass, index, own, tag, base, free }: TagProps) {
  const store = useBenchStore();
  const change = usePasses();
  const held = useRef<{ y: number; stops: number; moved: boolean } | null>(null);
  const choose = () => store.setState({ pass: own ? null : index });
  const set = (stops: number, done: boolean) => {
    const next = Math.min(Math.max(stops, LEAST_STOPS), MOST_STOPS);
    change.change(
      index,
      { stops: next },
      done ? `${nameOf(pass, index)} ${change.said(next)}` : undefined,
    );
  };
  const dragged = (event: React.PointerEvent, done: boolean) => {
    const was = held.current;
    if (!was) return;
    event.stopPropagation();
    const by = event.clientY - was.y;
    if (Math.abs(by) > 3) was.moved = true;
    if (was.moved) set(Math.round((was.stops + by / STOP) * 24) / 24, done);
    else if (done) choose();
    if (done) held.current = null;
  };
  return (
    <text
      role="button"
      aria-label={`${nameOf(pass, index)}, ${saidSeconds(pass, base)}`}
      aria-pressed={own}
      tabIndex={0}
      x={tag.x}
      y={tag.y}
      className={`cursor-ns-resize touch-none ${free ? "pointer-events-auto" : ""}`}
      style={{ paintOrder: "stroke" }}
      fontSize="15"
      fontStyle="italic"
      fontWeight="600"
      fill={own ? AMBER : CREAM}
      stroke="#0009"
      strokeWidth="3"
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = { y: event.clientY, stops: pass.stops, moved: false };
      }}
      onPointerMove={(event) => dragged(event, false)}
      onPointerUp={(event) => dragged(event, true)}
      onPointerEnter={() => store.setState({ hatched: index })}
      onPointerLeave={() => store.setState({ hatched: null })}
      onKeyDown={(event) => {
        const way = WAYS[event.key]?.[1];
        if (event.key === "Enter") choose();
        else if (event.key === "Delete") change.remove(index);
        else if (way) set(Math.round((pass.stops + way * STEP) * 12) / 12, true);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      {letterOf(index)} {saidSeconds(pass, base)}
    </text>
  );
}

interface HandleProps {
  chosen: number;
  which: number;
  name: string;
  at: WindowPlace;
  where: Where;
  under: (event: React.PointerEvent) => PicturePlace;
  toPicture: (place: WindowPlace) => PicturePlace;
}

/** What a shape of the chosen pass is grabbed by: dragged, or moved by arrow keys. */
function Handle({ chosen, which, name, at, where, under, toPicture }: HandleProps) {
  const change = usePasses();
  const held = useRef(false);
  const pass = change.all()[chosen];
  const shape = pass?.shapes[which];
  if (!pass || !shape) return null;
  const to = (place: PicturePlace, done: boolean) => {
    const own = change.all()[chosen]?.shapes[which] ?? shape;
    const label = done ? `${nameOf(pass, chosen)}: ${name}` : undefined;
    change.shape(chosen, which, gripped(own, name, place, where), label);
  };
  const corner = shape.kind === "outline" && name !== "place" ? Number(name.split(" ")[1]) - 1 : -1;
  const points = shape.kind === "outline" ? shape.points : [];
  return (
    <circle
      role="button"
      aria-label={`${letterOf(chosen)}, ${shape.kind} ${which + 1}: ${name}`}
      tabIndex={0}
      cx={at.x}
      cy={at.y}
      r={name === "place" ? 7 : corner >= 0 ? 4 : 5.5}
      fill={name === "softness" ? AMBER : "#111a"}
      stroke={AMBER}
      strokeWidth={2}
      className="pointer-events-auto cursor-move touch-none"
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
      }}
      onPointerMove={(event) => {
        if (!held.current) return;
        event.stopPropagation();
        to(under(event), false);
      }}
      onPointerUp={(event) => {
        event.stopPropagation();
        if (held.current) to(under(event), true);
        held.current = false;
      }}
      onKeyDown={(event) => {
        const way = WAYS[event.key];
        if (way) {
          const by = event.shiftKey ? 20 : 2;
          to(toPicture(windowPlace(at.x + way[0] * by, at.y + way[1] * by)), true);
        } else if (event.key === "Delete" && corner >= 0 && points.length > 3) {
          const next = { ...shape, points: points.toSpliced(corner, 1) } as typeof shape;
          change.shape(chosen, which, next, `${nameOf(pass, chosen)}: a corner less`);
        } else if (event.key === "Insert" && corner >= 0) {
          const [a, b] = [points[corner], points[(corner + 1) % points.length]];
          if (!a || !b) return;
          const between: [number, number] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
          const next = { ...shape, points: points.toSpliced(corner + 1, 0, between) };
          change.shape(chosen, which, next as typeof shape, `${nameOf(pass, chosen)}: a corner`);
        } else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    />
  );
}

interface OutlineProps {
  line: Line;
  own: boolean;
  scale: number;
  inWindow: (place: PicturePlace) => WindowPlace;
}

/** Where an area is full, and where nothing of it is left. */
function Outline({ line, own, scale, inWindow }: OutlineProps) {
  if (!own && line.faint) return null;
  const points = line.points
    .map(inWindow)
    .map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`)
    .join(" ");
  const drawn = {
    points,
    fill: "none",
    stroke: own ? AMBER : CREAM,
    strokeOpacity: own ? 0.9 : 0.35,
    strokeWidth: own ? 1.5 : 1.2,
    strokeDasharray: line.faint ? "4 4" : undefined,
  };
  if (line.closed) return <polygon {...drawn} />;
  if (!line.wide) return <polyline {...drawn} />;
  return (
    <>
      <polyline
        {...drawn}
        strokeOpacity={own ? 0.13 : 0.05}
        strokeWidth={Math.max(3, line.wide * scale)}
        strokeDasharray={undefined}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
      <polyline {...drawn} strokeLinecap="round" />
    </>
  );
}

/** What is in hand: the size of a brush, what is held in the light and how long, an outline begun. */
function InHand({ at, inWindow }: { at: Placed; inWindow: (place: PicturePlace) => WindowPlace }) {
  const { tool, point, mapping, holding } = useBench((bench) => ({
    tool: bench.tool,
    point: pointOn(bench),
    mapping: bench.mapping,
    holding: bench.holding,
  }));
  const line = { fill: "none", stroke: CREAM, strokeWidth: 1.2 };
  if (tool.kind === "shape" && tool.shape === "outline" && tool.corners?.length) {
    const corners = tool.corners.map(inWindow);
    return (
      <g>
        <polyline points={corners.map((p) => `${p.x},${p.y}`).join(" ")} {...line} />
        {corners.map((p) => (
          <circle key={`${p.x} ${p.y}`} cx={p.x} cy={p.y} r={3} fill={CREAM} />
        ))}
      </g>
    );
  }
  if (!point) return null;
  const { x, y } = inWindow(point);
  const brushes = tool.kind === "strokes" || (tool.kind === "shape" && tool.shape === "brush");
  if (brushes) {
    const radius = mapping.radius * at.scale;
    return (
      <g>
        <circle cx={x} cy={y} r={radius} {...line} />
        <circle cx={x} cy={y} r={radius} {...line} stroke="#0006" strokeDasharray="3 3" />
      </g>
    );
  }
  if (tool.kind !== "hold") return null;
  const radius = mapping.held * at.scale;
  return (
    <g>
      {tool.shape === "disc" ? (
        <circle cx={x} cy={y} r={radius} {...line} fill="#0003" />
      ) : (
        <line x1={x - 4 * radius} x2={x + 4 * radius} y1={y} y2={y} {...line} strokeWidth={2} />
      )}
      {holding !== null && (
        <text
          x={x}
          y={y - (tool.shape === "disc" ? radius : 0) - 10}
          textAnchor="middle"
          fontSize="20"
          fontWeight="600"
          fill={AMBER}
          stroke="#000a"
          strokeWidth="3"
          style={{ paintOrder: "stroke" }}
        >
          {mapping.way === "dodge" ? "−" : "+"}
          {seconds(holding)} s
        </text>
      )}
    </g>
  );
}
