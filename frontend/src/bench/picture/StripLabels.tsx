import { useRef } from "react";
import type { StripFacts } from "../../api/client";
import { useBenchStore } from "../../state/bench";
import { gradeName, seconds } from "../../wording/format";

/** Takes a time or a grade from the strip that is laid. */
function useTakeStrip() {
  const store = useBenchStore();
  return (laid: StripFacts, value: number) => {
    const { facts, recipe, change } = store.getState();
    if (laid.over === "time" && facts?.split) {
      // both exposures keep their proportion
      const part = (seconds: number) => Number(((seconds * value) / facts.time).toFixed(2));
      const { soft_time, hard_time } = recipe.enlarger;
      change(
        "enlarger",
        { soft_time: part(soft_time), hard_time: part(hard_time) },
        `${value.toFixed(1)} s from the test strip`,
      );
    } else if (laid.over === "time") {
      const time = Number(value.toFixed(2));
      change("enlarger", { time }, `${time.toFixed(1)} s from the test strip`);
    } else {
      const grade = Number(value.toFixed(2));
      change("paper", { grade }, `Grade ${grade} from the contrast strip`);
    }
    store.setState({ shown: { kind: "print" } });
  };
}

interface StripLabelsProps {
  laid: StripFacts;
  margin: number;
  at: { left: number; top: number; width: number; height: number };
}

/** The strips as buttons with their seconds or grades: press one, or drag to another for what lies between. */
export function StripLabels({ laid, margin, at }: StripLabelsProps) {
  const onTaken = useTakeStrip();
  const from = useRef<number | null>(null);
  const { columns, rows } = laid;
  const ratio = window.devicePixelRatio;
  const take = (index: number) => {
    const first = laid.values[from.current ?? index];
    const last = laid.values[index];
    from.current = null;
    if (first === undefined || last === undefined) return;
    onTaken(laid, laid.over === "time" ? Math.sqrt(first * last) : (first + last) / 2);
  };
  const say = (value: number) =>
    laid.over === "time" ? `${seconds(value)} s` : `grade ${gradeName(value)}`;
  return (
    <div
      role="group"
      aria-label="Test strip"
      className="absolute grid"
      style={{
        gridTemplate: `repeat(${rows}, minmax(0, 1fr)) / repeat(${columns}, minmax(0, 1fr))`,
        left: margin + at.left / ratio,
        top: margin + at.top / ratio,
        width: at.width / ratio,
        height: at.height / ratio,
      }}
    >
      {laid.values.map((value, index) => (
        <button
          // by place: at the limits of the timer two strips may share a time
          key={index}
          type="button"
          aria-label={`Take ${say(value)}`}
          title="Take this one; drag to another strip for what lies between"
          onPointerDown={(event) => {
            event.stopPropagation();
            from.current = index;
          }}
          onPointerUp={(event) => {
            event.stopPropagation();
            take(index);
          }}
          onClick={(event) => event.detail === 0 && take(index)} // by keyboard
          className={`group relative min-h-0 min-w-0 border-black/40 hover:bg-white/5 ${
            index % columns ? "border-l" : ""
          } ${index >= columns ? "border-t" : ""}`}
        >
          <span
            className={`absolute rounded-[2px] bg-[#111c] px-1.5 text-[11.5px] leading-[17px] font-semibold text-white group-hover:text-amber ${
              columns > 1 ? "bottom-2 left-1/2 -translate-x-1/2" : "top-1/2 left-2 -translate-y-1/2"
            }`}
          >
            {say(value)}
          </span>
        </button>
      ))}
    </div>
  );
}
