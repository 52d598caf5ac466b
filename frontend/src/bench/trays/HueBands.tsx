import { useRef, useState } from "react";
import {
  type Facts,
  fieldOf,
  fieldOfKind,
  type HueBand,
  type Reading,
  within,
} from "../../api/client";
import { Button } from "../../parts/Button";
import { hueColour } from "../../parts/hue";
import { roving } from "../../parts/roving";
import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore, useTray } from "../../state/bench";
import { HUE_NAMES, signed } from "../../wording/format";
import { StationSlider } from "./parts";

const SIDE = 196;
const MIDDLE = SIDE / 2;
const RING = 92;
const LEVEL = 46;
const STOP = 8;

/** How bright each hue prints: a ring to pull at, and a slider for each band. */
export function HueBands() {
  const tray = useTray();
  const { recipe, schema, change, facts, reading } = tray;
  const store = useBenchStore();
  const pulling = useBench((bench) => bench.tool.kind === "hues");
  const [chosen, choose] = useState(3);
  const bands = recipe.light.hue_bands;
  const home = fieldOf(schema, "light", "hue_bands").default as unknown as HueBand[];
  const band = bands[chosen];
  const set = (index: number, values: Partial<HueBand>, label?: string) =>
    change(
      "light",
      { hue_bands: bands.map((b, i) => (i === index ? { ...b, ...values } : b)) },
      label,
    );
  const name = HUE_NAMES[chosen] ?? "";
  return (
    <>
      <Ring
        bands={bands}
        chosen={chosen}
        onChoose={choose}
        facts={facts}
        reading={reading}
        onSet={set}
      />
      <Button
        pressed={pulling}
        hint="H"
        title="Drag up or down on the picture: the hue under the pointer prints lighter or darker"
        className="mb-1.5 self-stretch"
        onClick={() => store.getState().take({ kind: pulling ? "look" : "hues" })}
      >
        Pull hues on the picture
      </Button>
      {bands.map((b, index) => (
        <BandSlider
          key={HUE_NAMES[index]}
          label={HUE_NAMES[index] ?? ""}
          field="stops"
          value={b.stops}
          home={home[index]?.stops ?? 0}
          show={(v) => signed(v)}
          onSet={(v, label) => {
            if (label) choose(index);
            set(index, { stops: v }, label && `${HUE_NAMES[index]} ${signed(v)} stops`);
          }}
        />
      ))}
      <div
        role="radiogroup"
        aria-label="Band to shape"
        onKeyDown={roving("radio")}
        className="mt-2.5 mb-0.5 flex items-center gap-1.5 text-note"
      >
        <span className="mr-auto font-[560]">{name} band</span>
        {bands.map((b, index) => (
          <button
            key={HUE_NAMES[index]}
            type="button"
            role="radio"
            aria-checked={index === chosen}
            tabIndex={index === chosen ? 0 : -1}
            aria-label={HUE_NAMES[index]}
            title={HUE_NAMES[index]}
            onClick={() => choose(index)}
            className={`size-3.5 rounded-full border ${index === chosen ? "border-ink" : "border-transparent"}`}
            style={{ background: hueColour(b.centre) }}
          />
        ))}
      </div>
      {band &&
        (["centre", "width", "softness"] as const).map((field) => (
          <BandSlider
            key={field}
            field={field}
            value={band[field]}
            home={home[chosen]?.[field] ?? 0}
            show={(v) => (field === "softness" ? v.toFixed(2) : String(Math.round(v)))}
            onSet={(v, label) => set(chosen, { [field]: v }, label && `${name}: ${field}`)}
          />
        ))}
      <StationSlider
        station="light"
        field="hue_shift"
        show={(v) => signed(v, 0)}
        label={(v) => `Hue shift ${signed(v, 0)}°`}
      />
    </>
  );
}

interface BandSliderProps {
  field: "stops" | "centre" | "width" | "softness";
  label?: string;
  value: number;
  home: number;
  show: (value: number) => string;
  onSet: (value: number, label?: string) => void;
}

function BandSlider({ field: name, label, onSet, ...rest }: BandSliderProps) {
  const schema = useBench((bench) => bench.schema);
  const field = fieldOfKind(schema, "HueBand", name);
  const said = label ?? field.title;
  return (
    <Slider
      label={said}
      description={field.description}
      min={field.minimum}
      max={field.maximum}
      step={field.step}
      unit={field.unit}
      {...rest}
      onPreview={(value) => onSet(value)}
      onCommit={(value) => onSet(value, said)}
    />
  );
}

interface RingProps {
  bands: HueBand[];
  chosen: number;
  onChoose: (index: number) => void;
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

/** Hues about white: which of them the picture holds, and what the bands give them. */
function Ring({ bands, chosen, onChoose, facts, reading, onSet }: RingProps) {
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ index: number; values: Partial<HueBand> } | null>(null);
  const range = useBench((bench) => fieldOfKind(bench.schema, "HueBand", "stops"));
  const pull = (event: React.PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box || !held.current) return;
    const x = ((event.clientX - box.left) / box.width) * SIDE - MIDDLE;
    const y = MIDDLE - ((event.clientY - box.top) / box.height) * SIDE;
    const stops = within((Math.hypot(x, y) - LEVEL) / STOP, range);
    const centre = (Math.round((Math.atan2(y, x) * 180) / Math.PI) + 360) % 360;
    held.current.values = { stops: Math.round(stops * 12) / 12, centre };
    onSet(held.current.index, held.current.values);
  };
  const drop = () => {
    const now = held.current;
    held.current = null;
    if (!now || now.values.stops === undefined) return;
    onSet(now.index, now.values, `${HUE_NAMES[now.index]} ${signed(now.values.stops)} stops`);
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${SIDE} ${SIDE}`}
      role="img"
      aria-label="Hues of the picture, and what the bands give each"
      className="mx-auto mb-2 block w-[196px] touch-none select-none"
      onPointerMove={pull}
      onPointerUp={drop}
      onPointerCancel={drop}
    >
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
      {facts && (
        <path
          d={ringOf(facts.hue_stops.map((s) => LEVEL + s * STOP))}
          fill="none"
          stroke="#e6e6e6"
          strokeWidth="1.4"
        />
      )}
      {bands.map((band, index) => {
        const [x, y] = at(band.centre, LEVEL + band.stops * STOP);
        return (
          <circle
            key={HUE_NAMES[index]}
            data-band={HUE_NAMES[index]}
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
        );
      })}
    </svg>
  );
}
