import { useRef } from "react";
import { type Facts, fieldOfKind, type HueBand, type Reading, within } from "../../api/client";
import { hueColour } from "../../parts/hue";
import { useBench } from "../../state/bench";
import { signed } from "../../wording/format";

const SIDE = 196;
const MIDDLE = SIDE / 2;
const RING = 92;
const LEVEL = 46;
const STOP = 8;

interface RingProps {
  bands: HueBand[];
  names: string[];
  chosen: number | null;
  onChoose: (index: number) => void;
  onAdd: (centre: number) => void;
  facts: Facts | null;
  reading: Reading | null;
  onSet: (index: number, values: Partial<HueBand>, label?: string) => void;
}

const at = (degrees: number, radius: number) => {
  const turn = (degrees * Math.PI) / 180;
  return [MIDDLE + radius * Math.cos(turn), MIDDLE - radius * Math.sin(turn)] as const;
};
const ringOf = (radii: number[]) =>
  `M${radii
    .map((r, i) =>
      at((i * 360) / radii.length, r)
        .map((v) => v.toFixed(1))
        .join(" "),
    )
    .join("L")}Z`;

/** An arc about the middle, for how far a band reaches. */
const arc = (from: number, to: number, radius: number) => {
  const steps = Math.max(2, Math.round((to - from) / 4));
  return `M${Array.from({ length: steps + 1 }, (_, i) =>
    at(from + ((to - from) * i) / steps, radius)
      .map((v) => v.toFixed(1))
      .join(" "),
  ).join("L")}`;
};

/** Hues about white: which of them the picture holds, and what the bands give them. */
export function HueRing({
  bands,
  names,
  chosen,
  onChoose,
  onAdd,
  facts,
  reading,
  onSet,
}: RingProps) {
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ index: number; values: Partial<HueBand> } | null>(null);
  const range = useBench((bench) => fieldOfKind(bench.schema, "HueBand", "stops"));
  const placeOf = (event: React.MouseEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return null;
    const x = ((event.clientX - box.left) / box.width) * SIDE - MIDDLE;
    const y = MIDDLE - ((event.clientY - box.top) / box.height) * SIDE;
    const hue = (Math.round((Math.atan2(y, x) * 180) / Math.PI) + 360) % 360;
    return { hue, radius: Math.hypot(x, y) };
  };
  const pull = (event: React.PointerEvent) => {
    const place = held.current && placeOf(event);
    if (!held.current || !place) return;
    const stops = within((place.radius - LEVEL) / STOP, range);
    held.current.values = { stops: Math.round(stops * 12) / 12, centre: place.hue };
    onSet(held.current.index, held.current.values);
  };
  const drop = () => {
    const now = held.current;
    held.current = null;
    if (!now || now.values.stops === undefined) return;
    onSet(now.index, now.values, `${names[now.index]} ${signed(now.values.stops)} stops`);
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${SIDE} ${SIDE}`}
      role="img"
      aria-label="Hues of the picture, and what the bands give each; a double click makes a band"
      className="mx-auto mb-2 block w-[196px] touch-none select-none wide:w-[280px]"
      onPointerMove={pull}
      onPointerUp={drop}
      onPointerCancel={drop}
      onDoubleClick={(event) => {
        const place = placeOf(event);
        if (place && !(event.target instanceof SVGCircleElement && event.target.dataset.band))
          onAdd(place.hue);
      }}
    >
      <rect width={SIDE} height={SIDE} fill="transparent" />
      {Array.from({ length: 72 }, (_, i) => i * 5).map((hue, i) => {
        const share = Math.sqrt(reading?.hues[i] ?? 0);
        const points = (inner: number, outer: number) =>
          [at(hue - 0.2, inner), at(hue - 0.2, outer), at(hue + 5.2, outer), at(hue + 5.2, inner)]
            .map((p) => p.map((v) => v.toFixed(1)).join(","))
            .join(" ");
        return (
          <g key={hue} fill={hueColour(hue + 2.5)}>
            <polygon points={points(RING, RING + 4)} />
            <polygon points={points(RING - 1 - 15 * share, RING - 1)} opacity={0.8} />
          </g>
        );
      })}
      {[-4, -2, 0, 2].map((stops) => (
        <circle
          key={stops}
          cx={MIDDLE}
          cy={MIDDLE}
          r={LEVEL + stops * STOP}
          fill="none"
          stroke={stops ? "#303030" : "#4d4d4d"}
        />
      ))}
      <text x={MIDDLE + 3} y={MIDDLE - LEVEL - 2} fontSize="9" fill="#949494">
        0
      </text>
      <text x={MIDDLE + 3} y={MIDDLE - LEVEL - 2 * STOP - 2} fontSize="9" fill="#949494">
        +2
      </text>
      {facts && bands.length > 0 && (
        <path
          d={ringOf(facts.hue_stops.map((s) => LEVEL + s * STOP))}
          fill="none"
          stroke="#e6e6e6"
          strokeWidth="1.4"
        />
      )}
      {bands.map((band, index) => {
        const radius = LEVEL + band.stops * STOP;
        const [x, y] = at(band.centre, radius);
        const half = band.width / 2;
        return (
          <g key={index}>
            <path
              d={arc(band.centre - half, band.centre + half, radius)}
              fill="none"
              stroke={hueColour(band.centre, 0.85)}
              strokeWidth={index === chosen ? 3 : 2}
              opacity={index === chosen ? 1 : 0.55}
            />
            <circle
              data-band={names[index]}
              cx={x}
              cy={y}
              r={5.5}
              fill={hueColour(band.centre, 0.85)}
              stroke={index === chosen ? "#e8a33d" : "#161616"}
              strokeWidth={index === chosen ? 2 : 1}
              className="cursor-grab"
              onPointerDown={(event) => {
                svg.current?.setPointerCapture(event.pointerId);
                onChoose(index);
                held.current = { index, values: {} };
              }}
            />
          </g>
        );
      })}
    </svg>
  );
}
