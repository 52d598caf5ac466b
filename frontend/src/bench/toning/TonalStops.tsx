import { useRef, useState } from "react";
import { fieldOf, fieldOfKind } from "../../api/client";
import type { TonalStop } from "../../api/types";
import { Button } from "../../parts/Button";
import { Slider } from "../../parts/Slider";
import { useBench, useTray } from "../../state/bench";

const FIRST: TonalStop[] = [
  { place: 0, colour: "#000000" },
  { place: 85, colour: "#fff4e6" },
];

/** Colours at places of the print's scale. */
export function TonalStops() {
  const { recipe, schema, change } = useTray();
  const scale = useBench(({ facts }) => facts?.print_scale);
  const { stops } = recipe.toner;
  const most = fieldOf(schema, "toner", "stops").maxItems ?? 0;
  const field = fieldOfKind(schema, "TonalStop", "place");
  const put = (next: TonalStop[], label?: string) => change("toner", { stops: next }, label);
  const set = (index: number, values: Partial<TonalStop>, label?: string) =>
    put(
      stops.map((s, i) => (i === index ? { ...s, ...values } : s)),
      label,
    );
  /** Between the neighbours, since stops keep their order. */
  const room = (index: number) => ({
    min: index > 0 ? (stops[index - 1]?.place ?? 0) + field.step : field.minimum,
    max: index < stops.length - 1 ? (stops[index + 1]?.place ?? 100) - field.step : field.maximum,
  });
  /** With the colour that the scale has there; not where one lies by now. */
  const addAt = (place: number) => {
    const near = stops.some((stop) => Math.abs(stop.place - place) < field.step);
    if (near || stops.length >= most) return;
    const colour = scale?.[Math.round((place / 100) * (scale.length - 1))] ?? "#808080";
    const next = [...stops, { place, colour }].sort((a, b) => a.place - b.place);
    put(next, `Stop at ${place} %`);
  };
  const add = () => {
    if (stops.length === 0) {
      put(FIRST, "Tonal stops");
      return;
    }
    // in the middle of the widest gap
    const gaps = stops.slice(1).map((stop, i) => stop.place - (stops[i]?.place ?? 0));
    const at = gaps.indexOf(Math.max(...gaps));
    addAt(Math.round((stops[at]?.place ?? 0) + (gaps[at] ?? 0) / 2));
  };
  const full = stops.length >= most || stops.some((_, i) => i > 0 && room(i).max - room(i).min < 0);
  return (
    <>
      <p className="mb-2 text-note text-soft">
        Colours at places of the print's scale, joined smoothly; nothing is lighter than the last.
      </p>
      {stops.length > 0 && scale && (
        <Wedge
          scale={scale}
          stops={stops}
          room={room}
          onMove={(index, place, done) =>
            set(index, { place }, done ? `Stop ${index + 1} at ${place} %` : undefined)
          }
          onAdd={addAt}
        />
      )}
      <ul data-control="toner.stops">
        {stops.map((stop, index) => (
          <li key={index} className="flex items-center gap-1.5">
            <input
              type="color"
              aria-label={`Colour of stop ${index + 1}`}
              value={stop.colour}
              onChange={(event) => set(index, { colour: event.target.value })}
              onBlur={(event) =>
                set(
                  index,
                  { colour: event.target.value },
                  `Stop ${index + 1} ${event.target.value}`,
                )
              }
              className="h-5 w-6 shrink-0 cursor-pointer rounded-[2px] border-0 bg-transparent p-0"
            />
            <div className="min-w-0 flex-1">
              <Slider
                label={`Stop ${index + 1}`}
                description={field.description}
                {...room(index)}
                step={field.step}
                home={stop.place}
                unit={field.unit}
                value={stop.place}
                show={(v) => String(Math.round(v))}
                onPreview={(place) => set(index, { place })}
                onCommit={(place) =>
                  set(index, { place }, `Stop ${index + 1} at ${Math.round(place)} %`)
                }
              />
            </div>
            <button
              type="button"
              aria-label={`Take stop ${index + 1} away`}
              title="Take it away"
              className="px-1 text-faint hover:text-ink"
              onClick={() =>
                put(
                  stops.length > 2 ? stops.toSpliced(index, 1) : [],
                  `Stop ${index + 1} taken away`,
                )
              }
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {stops.length > 0 && (
        <div className="mt-1.5 flex flex-wrap items-center gap-1.5 text-note text-soft">
          In sRGB
          {stops.map((stop, index) => (
            <HexField
              key={index}
              label={`Colour of stop ${index + 1}, hexadecimal`}
              value={stop.colour}
              onSet={(colour) => set(index, { colour }, `Stop ${index + 1} ${colour}`)}
            />
          ))}
        </div>
      )}
      <div className="mt-2 flex gap-1.5">
        <Button disabled={full} onClick={add}>
          {stops.length ? "Add a stop" : "Lay stops"}
        </Button>
        {stops.length > 0 && <Button onClick={() => put([], "No tonal stops")}>Without</Button>}
      </div>
    </>
  );
}

/** A colour that is typed: six hexadecimal digits, with or without #. */
function HexField({
  label,
  value,
  onSet,
}: {
  label: string;
  value: string;
  onSet: (colour: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, setRefused] = useState(false);
  const accept = () => {
    if (typed === null) return;
    const found = /^#?([0-9a-f]{6})$/i.exec(typed.trim())?.[1];
    setRefused(!found);
    if (!found) return;
    setTyped(null);
    if (`#${found.toLowerCase()}` !== value) onSet(`#${found.toLowerCase()}`);
  };
  return (
    <span className="relative">
      <input
        aria-label={label}
        aria-invalid={refused}
        value={typed ?? value}
        spellCheck={false}
        onChange={(event) => {
          setTyped(event.target.value);
          setRefused(false);
        }}
        onBlur={accept}
        onKeyDown={(event) => {
          if (event.key === "Enter") accept();
          if (event.key === "Escape") {
            setTyped(null);
            setRefused(false);
          }
        }}
        className={`w-[62px] rounded-[3px] border bg-well px-1 py-px text-ink ${refused ? "border-loss" : "border-transparent"}`}
      />
      {refused && (
        <span
          role="alert"
          className="absolute top-6 left-0 z-20 w-44 rounded bg-raise px-2 py-1 text-small text-ink"
        >
          No colour: six hexadecimal digits are wanted, as in #451f01.
        </span>
      )}
    </span>
  );
}

interface WedgeProps {
  scale: string[];
  stops: TonalStop[];
  /** Between which places a stop can be. */
  room: (index: number) => { min: number; max: number };
  onMove: (index: number, place: number, done: boolean) => void;
  onAdd: (place: number) => void;
}

/** The print's scale with its stops on it, which are dragged; by keys their sliders move them. */
function Wedge({ scale, stops, room, onMove, onAdd }: WedgeProps) {
  const holder = useRef<HTMLDivElement>(null);
  const [held, hold] = useState<number | null>(null);
  const placeAt = (x: number) => {
    const box = holder.current?.getBoundingClientRect();
    return box ? Math.round((100 * (x - box.left)) / box.width) : 0;
  };
  const moved = (x: number, done: boolean) => {
    if (held === null) return;
    const { min, max } = room(held);
    onMove(held, Math.min(Math.max(placeAt(x), min), max), done);
  };
  return (
    <div
      ref={holder}
      role="img"
      aria-label="The print's scale with its stops"
      title="Drag a stop; a double click makes one"
      className="relative mx-1.5 mb-4 h-8 touch-none select-none"
      style={{ background: `linear-gradient(90deg, ${scale.join(",")})` }}
      onDoubleClick={(event) => onAdd(placeAt(event.clientX))}
      onPointerMove={(event) => moved(event.clientX, false)}
      onPointerUp={(event) => {
        moved(event.clientX, true);
        hold(null);
      }}
    >
      {stops.map((stop, index) => (
        <span
          key={index}
          data-stop={index + 1}
          className={`-bottom-2.5 -translate-x-1/2 absolute h-4 w-3 cursor-ew-resize rounded-b-[3px] border ${index === held ? "border-amber" : "border-[#dcdcdc]"}`}
          style={{ left: `${stop.place}%`, background: stop.colour }}
          onPointerDown={(event) => {
            holder.current?.setPointerCapture(event.pointerId);
            hold(index);
          }}
        />
      ))}
    </div>
  );
}
