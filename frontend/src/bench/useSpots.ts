import { useState } from "react";
import { api, type Reading, type Recipe, type SpotState } from "../api/client";
import type { Change } from "../state/usePrint";
import { development, roman } from "../wording/format";
import type { Point } from "./views";

/** A development that brings a second spot to a zone while the first keeps its place. */
export interface Proposal {
  /** Stops of placement under which the spots were read. */
  placement: number;
  held: SpotState;
  spot: SpotState;
  target: number;
  n: number;
  landsOn: number;
  reached: boolean;
  /** Stops of speed it brings or costs. */
  speed: number;
}

export interface Spots {
  all: SpotState[];
  selected: string | null;
  proposal: Proposal | null;
  select: (letter: string | null) => void;
  add: (point: Point) => void;
  remove: (letter: string) => void;
  /** Puts a spot on a zone: by exposure, or, when another spot is placed, by development. */
  put: (spot: SpotState, placement: number, zone: number) => void;
  /** Moves all exposure with a spot that is being dragged. */
  drag: (spot: SpotState, placement: number, zone: number) => void;
  /** Whether putting this spot somewhere moves the exposure (or asks for a development). */
  movesExposure: (letter: string) => boolean;
  takeProposal: () => void;
  /** Places the spot of the proposal by exposure after all. */
  placeInstead: () => void;
  dropProposal: () => void;
}

const LETTERS = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZ"];
const MOST = 12;

/** The metered spots of a print and what is done with them. */
export function useSpots(
  recipe: Recipe,
  reading: Reading | null,
  change: Change,
  tell: (error: unknown) => void,
  /** Of the measuring circle, in pixels of the capture. */
  radius: number,
  /** Where a place of the finished picture lies on the capture. */
  toCapture: (point: Point) => Promise<Point>,
): Spots {
  const [selected, select] = useState<string | null>(null);
  const [proposal, setProposal] = useState<Proposal | null>(null);
  const kept = recipe.film.spots ?? [];
  const all = (reading?.spots ?? []).filter((s) => kept.some((k) => k.letter === s.letter));
  const held = all.find((s) => kept.some((k) => k.letter === s.letter && k.placed != null));

  const place = (spot: SpotState, placement: number, zone: number, label?: string) => {
    const moved = Math.min(Math.max(placement + zone - spot.zone, -MOST), MOST);
    const spots = kept.map((k) => ({ ...k, placed: k.letter === spot.letter ? zone : null }));
    change("film", { placement: moved, spots }, label);
  };
  const movesExposure = (letter: string) => !held || held.letter === letter;

  return {
    all,
    selected,
    proposal,
    select,
    movesExposure,
    add: (point) => {
      const letter = LETTERS.find((l) => kept.every((k) => k.letter !== l));
      if (!letter) return;
      toCapture(point)
        .then(({ x, y }) => {
          const spots = [...kept, { letter, x, y, radius, placed: null }];
          change("film", { spots }, `Spot ${letter} metered`);
          select(letter);
        })
        .catch(tell);
    },
    remove: (letter) => {
      const spots = kept.filter((k) => k.letter !== letter);
      change("film", { spots }, `Spot ${letter} removed`);
      select(null);
      setProposal(null);
    },
    drag: (spot, placement, zone) => place(spot, placement, zone),
    put: (spot, placement, zone) => {
      if (movesExposure(spot.letter)) {
        setProposal(null);
        place(spot, placement, zone, `${spot.letter} placed on ${roman(zone)}`);
        return;
      }
      const stock = recipe.film.stock ?? "";
      api
        .development(stock, spot.zone, zone)
        .then(({ n, lands_on, reached, speed }) => {
          if (held)
            setProposal({
              placement,
              held,
              spot,
              target: zone,
              n,
              landsOn: lands_on,
              reached,
              speed,
            });
        })
        .catch(tell);
    },
    takeProposal: () => {
      if (!proposal) return;
      const n = Number(proposal.n.toFixed(2));
      change("development", { n }, `${development(n)} for ${proposal.spot.letter}`);
      setProposal(null);
    },
    placeInstead: () => {
      if (!proposal) return;
      const { spot, target, placement } = proposal;
      place(spot, placement, target, `${spot.letter} placed on ${roman(target)}`);
      setProposal(null);
    },
    dropProposal: () => setProposal(null),
  };
}
