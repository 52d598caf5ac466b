import { useRef } from "react";
import { type Curve, fieldOf } from "../../api/client";
import { Plot } from "../../parts/Plot";
import { useBench } from "../../state/bench";
import type { Change } from "../../state/printing";
import { ROMAN } from "../../wording/format";

type Point = [number, number];
const APART = 0.1;

interface PrintCurveProps {
  points: Point[];
  /** Print values as the paper gives them, and finished. */
  values: Curve | null;
  change: Change;
}

/** The print curve: press to set a point, drag it, double-click or Delete to take it away. */
export function PrintCurve({ points, values, change }: PrintCurveProps) {
  const most = useBench((bench) => fieldOf(bench.schema, "paper", "curve").maxItems ?? 0);
  const box = useRef<HTMLDivElement>(null);
  const held = useRef<{ index: number; points: Point[] } | null>(null);
  const width = 272;
  const height = 150;
  const left = 36;
  const top = 6;
  const spread = width - left - 10;
  const rise = height - top - 30;

  const under = (event: React.PointerEvent): Point => {
    const rect = box.current?.getBoundingClientRect();
    if (!rect) return [0, 0];
    const x = (((event.clientX - rect.left) / rect.width) * width - left) / spread;
    const y = 1 - (((event.clientY - rect.top) / rect.height) * height - top) / rise;
    const within = (v: number) => Math.round(Math.min(Math.max(v, 0), 1) * 1000) / 100;
    return [within(x), within(y)];
  };
  /** A point moved as far as its neighbours let it. */
  const moved = (all: Point[], index: number, [x, y]: Point): Point[] => {
    const [x0, y0] = all[index - 1] ?? [-APART, 0];
    const [x1, y1] = all[index + 1] ?? [10 + APART, 10];
    const to: Point = [
      Math.min(Math.max(x, x0 + APART), x1 - APART),
      Math.min(Math.max(y, y0), y1),
    ];
    return all.map((p, i) => (i === index ? to : p));
  };
  const remove = (index: number) =>
    change("paper", { curve: points.filter((_, i) => i !== index) }, "Point taken away");
  return (
    <div
      ref={box}
      role="group"
      aria-label="Print curve"
      className="relative touch-none"
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        const at = under(event);
        const near = points.findIndex(([x]) => Math.abs(x - at[0]) < 0.5);
        event.currentTarget.setPointerCapture(event.pointerId);
        if (near >= 0) {
          held.current = { index: near, points };
          return;
        }
        if (points.length >= most) return;
        const index = points.filter(([x]) => x < at[0]).length;
        const added = [...points.slice(0, index), at, ...points.slice(index)];
        held.current = { index, points: moved(added, index, at) };
        change("paper", { curve: held.current.points });
      }}
      onPointerMove={(event) => {
        const now = held.current;
        if (!now) return;
        now.points = moved(now.points, now.index, under(event));
        change("paper", { curve: now.points });
      }}
      onPointerUp={() => {
        const now = held.current;
        held.current = null;
        if (now) change("paper", { curve: now.points }, "Print curve");
      }}
      onDoubleClick={(event) => {
        const [x] = under(event as unknown as React.PointerEvent);
        const near = points.findIndex(([px]) => Math.abs(px - x) < 0.5);
        if (near >= 0) remove(near);
      }}
    >
      <Plot
        label="Print curve: value as printed, and as wanted"
        x={{
          from: 0,
          to: 10,
          ticks: [0, 2, 4, 6, 8, 10],
          text: (v) => ROMAN[v] ?? "",
          label: "value as printed",
        }}
        y={{ from: 0, to: 10, ticks: [0, 5, 10], text: (v) => ROMAN[v] ?? "", label: "wanted" }}
        lines={[
          { curve: { x: [0, 10], y: [0, 10] }, quiet: true },
          { curve: values ?? { x: [0, 10], y: [0, 10] } },
        ]}
      />
      {points.map(([x, y], index) => (
        <button
          // by place: they keep their order
          key={index}
          type="button"
          aria-label={`Point at ${x.toFixed(1)}, wanted ${y.toFixed(1)}`}
          className="absolute size-3 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-panel bg-amber"
          style={{
            left: `${((left + (x / 10) * spread) / width) * 100}%`,
            top: `${((top + (1 - y / 10) * rise) / height) * 100}%`,
          }}
          onKeyDown={(event) => {
            const by = { ArrowUp: 0.1, ArrowDown: -0.1 }[event.key];
            if (by) {
              event.preventDefault();
              change("paper", { curve: moved(points, index, [x, y + by]) }, "Print curve");
            }
            if (event.key === "Delete" || event.key === "Backspace") {
              event.preventDefault();
              event.stopPropagation();
              remove(index);
            }
          }}
        />
      ))}
    </div>
  );
}
