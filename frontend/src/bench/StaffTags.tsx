import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { SpotState } from "../api/client";
import { useBench, useBenchStore } from "../state/bench";
import { roman } from "../wording/format";
import { movesExposure, spotsOf, useSpotActions } from "./spots";
import { hang, snapped, wordsOf, ZONES, zoneByKey } from "./tags";

const FONT = "11.5px Archivo";
const DRAGGED = 3; // px from which a press is a drag

let pen: CanvasRenderingContext2D | null = null;
/** Width of a tag's words, px. */
function widthOf(words: string): number {
  pen ??= document.createElement("canvas").getContext("2d");
  if (!pen) return words.length * 6.5;
  pen.font = FONT;
  return Math.ceil(pen.measureText(words).width) + 8;
}

interface Dragged {
  spot: SpotState;
  placement: number;
  x: number;
  zone: number | null;
}

/** The metered spots hanging on the zone staff; dragged to another zone they are put there. */
export function StaffTags() {
  const store = useBenchStore();
  const all = useBench(spotsOf);
  const { selected, facts, reading } = useBench(({ selected, facts, reading }) => ({
    selected,
    facts,
    reading,
  }));
  const spots = useSpotActions();
  // of the recipe that the spots were read under, which may lag behind the one on the bench
  const placement = reading?.placement ?? 0;
  const moves = (letter: string) => movesExposure(store.getState(), letter);
  const row = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const [drag, setDrag] = useState<Dragged | null>(null);
  useEffect(() => {
    const element = row.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const tags = all.map((spot) => {
    const to = drag?.spot.letter === spot.letter && !moves(spot.letter) ? drag.zone : null;
    const says = to === null ? wordsOf(spot, facts?.straight) : `to ${roman(to)}?`;
    return { spot, letter: spot.letter, zone: to ?? spot.zone, says, words: widthOf(says) };
  });
  const hung = hang(tags, selected, width);

  const under = (began: Dragged, clientX: number): number | null => {
    const moved = clientX - began.x;
    if (began.zone === null && Math.abs(moved) < DRAGGED) return null;
    return snapped(began.spot.zone + (moved / Math.max(width, 1)) * ZONES);
  };
  const move = (began: Dragged, clientX: number) => {
    const zone = under(began, clientX);
    if (zone === null) return;
    setDrag({ ...began, zone });
    if (moves(began.spot.letter)) spots.drag(began.spot, began.placement, zone);
  };
  const keyed = (event: KeyboardEvent, spot: SpotState) => {
    if (!event.key.startsWith("Arrow")) return; // digits are keys of the whole Bench
    const { recipe, proposal } = store.getState();
    const put = recipe.film.spots.find((s) => s.letter === spot.letter)?.placed;
    const lags = recipe.film.placement !== placement; // the spot has moved, its reading has not yet
    const at =
      proposal?.spot === spot.letter ? proposal.target : lags && put != null ? put : spot.zone;
    const zone = zoneByKey(event.key, at, false);
    if (zone === null) return;
    event.preventDefault();
    spots.select(spot.letter);
    spots.put(spot, placement, zone);
  };

  return (
    <div ref={row} className="relative h-[21px]">
      {tags.map(({ spot, letter, says }, i) => {
        const on = selected === letter;
        const { at = 0, side = "right", room = 0 } = hung[i] ?? {};
        return (
          <button
            key={letter}
            type="button"
            aria-label={`Spot ${letter}, ${says}`}
            aria-pressed={on}
            title={says}
            className={`absolute top-0 flex cursor-ew-resize touch-none items-center gap-1.5 ${
              on ? "z-20" : "z-10"
            } ${side === "left" ? "flex-row-reverse" : ""}`}
            style={side === "left" ? { right: width - at - 9 } : { left: at - 9 }}
            onClick={() => spots.select(letter)}
            onKeyDown={(event) => keyed(event, spot)}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              spots.select(letter);
              setDrag({ spot, placement, x: event.clientX, zone: null });
            }}
            onPointerMove={(event) => drag && move(drag, event.clientX)}
            onPointerUp={(event) => {
              setDrag(null);
              if (!drag) return;
              const zone = under(drag, event.clientX);
              if (zone !== null) spots.put(drag.spot, drag.placement, zone);
            }}
            onPointerCancel={() => setDrag(null)}
          >
            <span
              className={`relative grid h-[17px] w-[18px] shrink-0 place-items-center rounded-[2px] text-[11.5px] font-[640] text-[#181206] after:absolute after:top-full after:h-10 after:border-l ${
                on ? "bg-amber after:border-amber" : "bg-ink after:border-ink"
              }`}
            >
              {letter}
            </span>
            {room > 0 && (
              <span
                className="truncate bg-ground text-small whitespace-nowrap text-soft"
                style={{ maxWidth: room }}
              >
                {says}
              </span>
            )}
          </button>
        );
      })}
    </div>
  );
}
