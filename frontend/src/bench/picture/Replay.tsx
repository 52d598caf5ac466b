import type { PassShape } from "../../api/client";
import { sizeOf, useBench } from "../../state/bench";
import { passesOf } from "../map/passes";
import { linesOf } from "../map/shapes";
import { type Placed, pictureToWindow } from "../places";

type Moved = Extract<PassShape, { kind: "moved" }>;

/** What was held by hand, moved again while the timer runs. */
export function Replay({ at }: { at: Placed }) {
  const size = useBench(sizeOf);
  const { passes, shape, exposed, sequence } = useBench(({ recipe, shape, shown, facts }) => ({
    passes: passesOf(recipe),
    shape,
    exposed: shown.kind === "timed" && typeof shown.exposed === "number" ? shown.exposed : null,
    sequence: facts?.sequence,
  }));
  if (exposed === null) return null;
  const lines = (sequence ?? []).flatMap(({ begins, ends, number }) => {
    if (number === null || exposed <= begins || exposed >= ends) return [];
    const part = (exposed - begins) / (ends - begins);
    return (passes[number]?.shapes ?? []).flatMap((each) =>
      each.kind === "moved" ? linesOf(placed(each, part), { shape, size }).slice(0, 1) : [],
    );
  });
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      {lines.map((line, i) => (
        <polyline
          key={i}
          points={line.points
            .map((point) => pictureToWindow(at, point))
            .map(({ x, y }) => `${x.toFixed(1)},${y.toFixed(1)}`)
            .join(" ")}
          fill={line.closed ? "#0006" : "none"}
          stroke="#f2efe6"
          strokeWidth={1.5}
        />
      ))}
    </svg>
  );
}

/** The shape where it was after a part of the time. */
function placed({ held, path }: Moved, part: number): Moved["held"] {
  const [first, last] = [path[0], path.at(-1)];
  if (!first || !last) return held;
  const moment = first[2] + part * (last[2] - first[2]);
  const after = path.find(([, , at]) => at >= moment) ?? last;
  const before = path.findLast(([, , at]) => at <= moment) ?? first;
  const share = after[2] > before[2] ? (moment - before[2]) / (after[2] - before[2]) : 0;
  const [dx, dy] = [0, 1].map(
    (i) => (before[i] ?? 0) + share * ((after[i] ?? 0) - (before[i] ?? 0)),
  );
  const moved = { ...held, x: held.x + (dx ?? 0), y: held.y + (dy ?? 0) };
  return moved.kind === "card"
    ? { ...moved, to_x: moved.to_x + (dx ?? 0), to_y: moved.to_y + (dy ?? 0) }
    : moved;
}
