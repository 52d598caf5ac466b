/** The metered spots of a print and what is done with them. */

import { api, fieldOf, type SpotState, within } from "../api/client";
import { type Bench, useBenchStore } from "../state/bench";
import { development, roman } from "../wording/format";
import { radiusOf } from "./Meter";
import { capturePixelUnder, middleOf, type PicturePlace } from "./places";

const LETTERS = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZ"];

/** The spots that were read, of those that the recipe still has. */
export function spotsOf({ recipe, reading }: Pick<Bench, "recipe" | "reading">): SpotState[] {
  const kept = recipe.film.spots;
  return (reading?.spots ?? []).filter((s) => kept.some((k) => k.letter === s.letter));
}

/** The spot that was placed. */
const heldOf = (bench: Pick<Bench, "recipe" | "reading">): SpotState | undefined =>
  spotsOf(bench).find((s) =>
    bench.recipe.film.spots.some((k) => k.letter === s.letter && k.placed != null),
  );

/** Whether putting a spot somewhere moves the exposure (or asks for a development). */
export function movesExposure(bench: Pick<Bench, "recipe" | "reading">, letter: string): boolean {
  const held = heldOf(bench);
  return !held || held.letter === letter;
}

export function useSpotActions() {
  const store = useBenchStore();
  const place = (spot: SpotState, placement: number, zone: number) => {
    const { recipe, schema, change } = store.getState();
    const moved = within(placement + zone - spot.zone, fieldOf(schema, "film", "placement"));
    const spots = recipe.film.spots.map((k) => ({
      ...k,
      placed: k.letter === spot.letter ? zone : null,
    }));
    change("film", { placement: moved, spots });
    return moved;
  };
  /** Places a spot exactly: at once as far as a stop is a zone, then as it comes out, unless
   * something else has moved it by then. */
  const settle = (spot: SpotState, placement: number, zone: number) => {
    const moved = place(spot, placement, zone);
    const { frame, recipe, tell } = store.getState();
    api
      .placing(frame.id, recipe, spot, zone)
      .then((found) => {
        const bench = store.getState();
        const now = bench.recipe.film;
        const put = now.spots.find((k) => k.letter === spot.letter)?.placed;
        if (now.placement !== moved || put !== zone) return;
        const spots = now.spots.map((k) => ({
          ...k,
          placed: k.letter === spot.letter ? zone : null,
        }));
        const label = `${spot.letter} placed on ${roman(zone)}`;
        bench.change("film", { placement: Number(found.placement.toFixed(3)), spots }, label);
      })
      .catch(tell);
  };
  const drop = () => store.setState({ proposal: null });
  const spotOf = (letter: string) => spotsOf(store.getState()).find((s) => s.letter === letter);
  return {
    select: (selected: string | null) => store.setState({ selected }),
    /** Meters what lies at a pixel. */
    add: (pixel: PicturePlace) => {
      const bench = store.getState();
      const kept = bench.recipe.film.spots;
      const letter = LETTERS.find((l) => kept.every((k) => k.letter !== l));
      if (!letter) return;
      const { x, y } = capturePixelUnder(bench.shape, middleOf(pixel));
      const radius = radiusOf(bench.circle, bench.frame);
      const spots = [...kept, { letter, x, y, radius, placed: null }];
      bench.change("film", { spots }, `Spot ${letter} metered`);
      store.setState({ selected: letter });
    },
    remove: (letter: string) => {
      const { recipe, change } = store.getState();
      const spots = recipe.film.spots.filter((k) => k.letter !== letter);
      change("film", { spots }, `Spot ${letter} removed`);
      store.setState({ selected: null, proposal: null });
    },
    /** Moves all exposure with a spot that is being dragged. */
    drag: (spot: SpotState, placement: number, zone: number) => {
      place(spot, placement, zone);
    },
    /** Puts a spot on a zone: by exposure, or, when another spot is placed, by development. */
    put: (spot: SpotState, placement: number, zone: number) => {
      const bench = store.getState();
      const held = heldOf(bench);
      if (!held || held.letter === spot.letter) {
        drop();
        settle(spot, placement, zone);
        return;
      }
      api
        .development(bench.recipe.film.stock, spot.zone, zone, bench.recipe.development.developer)
        .then(({ n, lands_on, reached, speed }) =>
          store.setState({
            proposal: {
              placement,
              held: held.letter,
              spot: spot.letter,
              target: zone,
              n,
              landsOn: lands_on,
              reached,
              speed,
            },
          }),
        )
        .catch(bench.tell);
    },
    takeProposal: () => {
      const { proposal, change } = store.getState();
      if (!proposal) return;
      const n = Number(proposal.n.toFixed(2));
      change("development", { n }, `${development(n)} for ${proposal.spot}`);
      drop();
    },
    /** Places the spot of the proposal by exposure after all. */
    placeInstead: () => {
      const { proposal } = store.getState();
      const spot = proposal && spotOf(proposal.spot);
      if (!spot) return;
      const { target, placement } = proposal;
      settle(spot, placement, target);
      drop();
    },
    dropProposal: drop,
    spotOf,
  };
}
