import type { Side } from "../state/bench";
import { greyOf } from "../wording/colour";
import { ROMAN } from "../wording/format";

/** Which tone of a zone plate stands for which zone. */
const NAMES: Record<Side, string> = {
  scene: "Zones of the scene",
  negative: "Zones of the negative",
  print: "Print values",
};

export function PlateLegend({ tones, side }: { tones: string[]; side: Side }) {
  return (
    <ol
      aria-label={NAMES[side]}
      className="pointer-events-none absolute top-3 right-3 z-20 flex w-12 flex-col-reverse border border-black/60"
    >
      {ROMAN.map((name, i) => {
        const tone = tones[i] ?? "#000000";
        return (
          <li
            key={name}
            className="h-[22px] pr-1.5 text-right text-small leading-[22px] font-[560]"
            style={{
              background: tone,
              color: greyOf(tone) > 112 ? "#111" : "#e0e0e0",
            }}
          >
            {name}
          </li>
        );
      })}
    </ol>
  );
}
