import { useRef, useState } from "react";
import type { Facts } from "../api/client";
import { useBench, useBenchStore } from "../state/bench";
import { onZone, roman } from "../wording/format";
import { movesExposure, spotsOf, useSpotActions } from "./spots";

const ZONES = 11;
const WORDS_WIDE = 1.4; // zones that a tag with its words takes
const centre = (zone: number) => `${((Math.min(Math.max(zone, -0.5), 10.5) + 0.5) / ZONES) * 100}%`;
const snapped = (zone: number) => Math.min(Math.max(Math.round(zone * 3) / 3, 0), 10);

const STOP = Math.log10(2);

/** Says when a zone lies where the film's curve is no longer straight. */
function curved(zone: number, facts: Facts | null): string {
  if (!facts) return "";
  const at = (zone - 5) * STOP;
  if (at < facts.straight[0] - 0.02) return ", on the toe";
  return at > facts.straight[1] + 0.02 ? ", on the shoulder" : "";
}

/** The metered spots hanging on the zone staff; dragged to another zone they are put there. */
export function StaffTags() {
  const store = useBenchStore();
  const all = useBench(spotsOf);
  const { selected, facts } = useBench(({ selected, facts }) => ({ selected, facts }));
  const spots = useSpotActions();
  // of the recipe that the spots were read under, which may lag behind the one on the bench
  const placement = facts?.placement ?? 0;
  const moves = (letter: string) => movesExposure(store.getState(), letter);
  const row = useRef<HTMLDivElement>(null);
  const start = useRef<{ letter: string; zone: number; placement: number; x: number } | null>(null);
  const [ghost, setGhost] = useState<{ letter: string; zone: number } | null>(null);

  const zoneAt = (clientX: number) => {
    const box = row.current?.getBoundingClientRect();
    const began = start.current;
    if (!box || !began) return 0;
    return snapped(began.zone + ((clientX - began.x) / box.width) * ZONES);
  };

  return (
    <div ref={row} className="relative h-[21px]">
      {all.map((spot) => {
        const on = selected === spot.letter;
        const dragged = ghost?.letter === spot.letter ? ghost : null;
        const zone = dragged && !moves(spot.letter) ? dragged.zone : spot.zone;
        const says =
          dragged && !moves(spot.letter)
            ? `to ${roman(zone)}?`
            : spot.placed != null
              ? `placed on ${roman(spot.placed)}${curved(spot.placed, facts)}`
              : `falls ${onZone(spot.zone)}${spot.clipped ? " or higher" : ""}`;
        const flip = zone > 8.2;
        // where tags hang close together only the chosen one keeps its words
        const near = all.some(
          (other) => other !== spot && Math.abs(other.zone - zone) < WORDS_WIDE,
        );
        return (
          <button
            key={spot.letter}
            type="button"
            aria-label={`Spot ${spot.letter}, ${says}`}
            aria-pressed={on}
            className={`absolute top-0 flex cursor-ew-resize touch-none items-center gap-1.5 ${
              on ? "z-20" : "z-10"
            }`}
            style={{
              left: centre(zone),
              transform: flip ? "translateX(calc(-100% + 9px))" : "translateX(-9px)",
              flexDirection: flip ? "row-reverse" : "row",
            }}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              spots.select(spot.letter);
              start.current = {
                letter: spot.letter,
                zone: spot.zone,
                placement,
                x: event.clientX,
              };
            }}
            onPointerMove={(event) => {
              const began = start.current;
              if (!began || Math.abs(event.clientX - began.x) < 3) return;
              const to = zoneAt(event.clientX);
              setGhost({ letter: spot.letter, zone: to });
              if (moves(spot.letter)) {
                spots.drag({ ...spot, zone: began.zone }, began.placement, to);
              }
            }}
            onPointerUp={(event) => {
              const began = start.current;
              start.current = null;
              setGhost(null);
              if (!began || Math.abs(event.clientX - began.x) < 3) return;
              spots.put({ ...spot, zone: began.zone }, began.placement, zoneAt(event.clientX));
            }}
          >
            <span
              className={`relative grid h-[17px] w-[18px] place-items-center rounded-[2px] text-[11.5px] font-[640] text-[#181206] after:absolute after:top-full after:h-10 after:border-l ${
                on ? "bg-amber after:border-amber" : "bg-ink after:border-ink"
              }`}
            >
              {spot.letter}
            </span>
            {(on || !near) && (
              <span className="bg-ground text-small whitespace-nowrap text-soft">{says}</span>
            )}
          </button>
        );
      })}
    </div>
  );
}
