import { useRef, useState } from "react";
import type { HeldZones, Reading, Spot } from "../api/client";
import { type Shown, type Side, type Surround, useBench, useBenchStore } from "../state/bench";
import { greyOf } from "../wording/colour";
import { ROMAN, roman, share, signed } from "../wording/format";
import { ProposalLine } from "./ProposalLine";
import { StaffTags } from "./StaffTags";
import { spotsOf } from "./spots";

const SURROUNDS: { value: Surround; text: string; tone: string }[] = [
  { value: "dark", text: "Dark surround", tone: "#1c1c1c" },
  { value: "grey", text: "Middle grey surround", tone: "#3b3b3b" },
  { value: "white", text: "White surround", tone: "#f4f4f4" },
];

const SIDES: Record<Side, { text: string; about: string }> = {
  scene: { text: "Scene", about: "Zones of the scene, as the film was exposed" },
  negative: {
    text: "Negative",
    about: "Densities of the negative, by the zone that normal development gives them",
  },
  print: { text: "Print", about: "Values of the print, L*/10" },
};

const NO_TONES: string[] = [];

/** What the zones of a side print as. */
export const tonesOf = (reading: Reading | null, side: Side): string[] =>
  (side === "scene"
    ? reading?.zone_tones
    : side === "negative"
      ? reading?.negative_tones
      : reading?.print_tones) ?? NO_TONES;

/** Eleven zones under the picture: how much of it lies in each, in the tone each prints. */
export function ZoneStaff() {
  const store = useBenchStore();
  const spots = useBench(spotsOf);
  const { reading, spot, surround, held, plate, side, selected, proposal } = useBench((bench) => ({
    reading: bench.reading,
    spot: bench.spot,
    surround: bench.surround,
    held: bench.shown.kind === "held" ? bench.shown.zones : null,
    plate: bench.shown.kind === "plate",
    side:
      bench.station === "paper" && bench.parts.paper === "values" ? ("print" as const) : bench.side,
    selected: bench.selected,
    proposal: bench.proposal,
  }));
  const before = useRef<Shown>({ kind: "print" });
  const onHeld = (zones: HeldZones | null) => {
    const { shown } = store.getState();
    if (shown.kind !== "held") before.current = shown;
    store.setState({ shown: zones ? { kind: "held", zones } : before.current });
  };
  const shares =
    reading &&
    { scene: reading.scene_zones, negative: reading.negative_zones, print: reading.print_values }[
      side
    ];
  const tones = tonesOf(reading, side);
  const most = Math.max(...(shares ?? [1]), 0.12);
  const pressed = useRef<number | null>(null);
  const [locked, setLocked] = useState(false);
  const [focus, setFocus] = useState(5);
  const reach = (zone: number) => {
    if (pressed.current === null) return;
    const ends = [pressed.current, zone];
    onHeld({ side, first: Math.min(...ends), last: Math.max(...ends) });
  };
  const release = () => {
    if (pressed.current !== null && !locked && held) onHeld(null);
    pressed.current = null;
  };
  // by keys: arrows walk, with Shift they reach over several; Enter holds and lets go
  const keyed = (event: React.KeyboardEvent<HTMLElement>, zone: number) => {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const next = way ? zone + way : zone;
    if (way && next >= 0 && next <= 10) {
      if (event.shiftKey) {
        const ends = held ? [held.first, held.last] : [zone, zone];
        onHeld({ side, first: Math.min(...ends, next), last: Math.max(...ends, next) });
      }
      (event.currentTarget.parentElement?.children[next] as HTMLElement | undefined)?.focus();
    } else if (event.key === "Enter" || event.key === " ")
      onHeld(held?.first === zone && held.last === zone ? null : { side, first: zone, last: zone });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const chosen = spots.find((s) => s.letter === selected);
  const what = { scene: "Zone", negative: "Negative zone", print: "Print value" }[side];
  return (
    <section
      aria-label="Zone staff"
      className="shrink-0 border-t border-black bg-ground px-3.5 pt-2"
    >
      {spots.length > 0 && side === "scene" && <StaffTags />}
      <div
        role="listbox"
        aria-label="Zones"
        aria-multiselectable
        className="grid h-[58px] touch-none grid-cols-11 gap-px select-none"
        title="Press a zone, or draw across several: they stand in the picture while the rest sinks back"
        onPointerUp={release}
        onPointerLeave={release}
        onPointerCancel={release}
      >
        {ROMAN.map((name, zone) => {
          const tone = tones[zone] ?? "#000000";
          const part = shares?.[zone] ?? 0;
          // 4.5 : 1 on any tone (WCAG 2)
          const text = greyOf(tone) > 117 ? "#000" : "#fff";
          return (
            <div
              key={name}
              role="option"
              aria-selected={held?.side === side && zone >= held.first && zone <= held.last}
              tabIndex={zone === focus ? 0 : -1}
              onFocus={() => setFocus(zone)}
              onKeyDown={(event) => keyed(event, zone)}
              onPointerDown={(event) => {
                if (event.button !== 0) return;
                const again = locked && held?.first === zone && held.last === zone;
                pressed.current = zone;
                if (again) onHeld(null);
                else reach(zone);
              }}
              onPointerEnter={() => reach(zone)}
              className={`flex cursor-pointer flex-col justify-end ${
                held && held.side === side && (zone < held.first || zone > held.last)
                  ? "opacity-40"
                  : ""
              }`}
            >
              <div className="bg-[#5c5c5c]" style={{ height: `${(part / most) * 33}px` }} />
              <div
                className="flex h-[23px] items-center justify-between gap-0.5 px-1 wide:px-1.5"
                style={{ background: tone, color: text }}
              >
                <span className="text-note font-[560]">
                  <span className="sr-only">{what} </span>
                  {name}
                  <span className="sr-only">: </span>
                </span>
                <span className="text-[10.5px] whitespace-nowrap">{shares ? share(part) : ""}</span>
              </div>
            </div>
          );
        })}
      </div>
      <div className="flex h-[29px] items-center gap-4 text-small">
        {(["scene", "negative", "print"] as const).map((value) => (
          <button
            key={value}
            type="button"
            aria-pressed={side === value}
            title={SIDES[value].about}
            onClick={() => store.setState({ side: value })}
            className={side === value ? "text-ink" : "text-faint hover:text-ink"}
          >
            {SIDES[value].text}
          </button>
        ))}
        <button
          type="button"
          aria-pressed={locked}
          title="Zones that are pressed stay until they are pressed again"
          onClick={() => {
            setLocked(!locked);
            if (locked) onHeld(null);
          }}
          className={locked ? "text-amber" : "text-faint hover:text-ink"}
        >
          Lock zones
        </button>
        <button
          type="button"
          aria-pressed={plate}
          title="The picture in eleven flat tones (Z)"
          onClick={() => store.setState({ shown: { kind: plate ? "print" : "plate" } })}
          className={plate ? "text-amber" : "text-faint hover:text-ink"}
        >
          Zone plate
        </button>
        <fieldset className="flex gap-1" aria-label="Surround">
          {SURROUNDS.map((choice) => (
            <button
              key={choice.value}
              type="button"
              title={choice.text}
              aria-label={choice.text}
              aria-pressed={surround === choice.value}
              onClick={() => store.setState({ surround: choice.value })}
              className={`size-3.5 rounded-[2px] border ${
                surround === choice.value ? "border-amber" : "border-[#5a5a5a]"
              }`}
              style={{ background: choice.tone }}
            />
          ))}
        </fieldset>
        <ProposalLine />
        {spot && !proposal && <SpotLine spot={spot} />}
        {chosen && !spot && !proposal && <SpotLine spot={chosen} letter={chosen.letter} />}
        {reading && !chosen && !spot && !proposal && (
          <p className="ml-auto flex gap-4 text-soft">
            <Limit text="Capture clipped" value={reading.capture_clipped} many={0.005} />
            <Limit text="Paper black" value={reading.paper_black} many={0.05} />
            <Limit text="Paper white" value={reading.paper_white} many={0.02} />
          </p>
        )}
      </div>
    </section>
  );
}

type Reads = Pick<
  Spot,
  "zone" | "unsure" | "negative" | "density" | "number" | "clipped" | "ev"
> & {
  value?: number;
  lab?: Spot["lab"];
};

/** Zones, one deviation, from which it is said that colour alone does not tell the exposure. */
const WORTH_SAYING = 0.1;

/** What light became under the pointer, from the scene to the number in the file. */
function SpotLine({ spot, letter }: { spot: Reads; letter?: string }) {
  const chain = [
    ...(letter
      ? [
          ["Spot", letter],
          ["From V", `${signed(spot.zone - 5)} stops`],
        ]
      : []),
    ...(spot.ev == null ? [] : [["EV", spot.ev.toFixed(1)]]),
    [
      "Scene zone",
      `${spot.clipped ? "at least " : ""}${roman(spot.zone)}${
        spot.unsure >= WORTH_SAYING ? ` ± ${spot.unsure.toFixed(1)}` : ""
      }`,
    ],
    ["Negative", `${spot.negative.toFixed(2)} D`],
    ["Print", `${spot.density.toFixed(2)} D`],
    ...(spot.value == null ? [] : [["Value", roman(spot.value)]]),
    ...(spot.lab
      ? [["L*a*b*", spot.lab.map((v, i) => (i ? signed(v, 0) : v.toFixed(0))).join(" ")]]
      : [["Number", String(spot.number)]]),
  ];
  return (
    <dl
      className="ml-auto flex min-w-0 gap-4 overflow-hidden whitespace-nowrap text-soft"
      aria-label={letter ? `Spot ${letter}` : "Under the pointer"}
    >
      {chain.map(([name, value]) => (
        <div
          key={name}
          className="flex gap-1.5"
          title={
            value?.includes("±")
              ? "As far as colour tells: in two cases of three the film's exposure lies within this"
              : undefined
          }
        >
          <dt>{name}</dt>
          <dd className={`text-ink ${spot.clipped && name === "Scene zone" ? "text-loss" : ""}`}>
            {value}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Limit({ text, value, many }: { text: string; value: number; many: number }) {
  return (
    <span>
      {text} <span className={value > many ? "text-loss" : "text-ink"}>{share(value)}</span>
    </span>
  );
}
