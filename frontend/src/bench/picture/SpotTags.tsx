import { useBench, useBenchStore } from "../../state/bench";
import { type Placed, picturePlace, pictureToWindow } from "../places";
import { spotsOf } from "../spots";

/** The metered spots on the picture, by their letters. */
export function SpotTags({ at }: { at: Placed }) {
  const store = useBenchStore();
  const spots = useBench(spotsOf);
  const selected = useBench((bench) => bench.selected);
  return spots.map((spot) => {
    const { x, y } = pictureToWindow(at, picturePlace(spot.x, spot.y));
    return (
      <button
        key={spot.letter}
        type="button"
        aria-label={`Spot ${spot.letter} on the picture`}
        onPointerDown={(event) => {
          event.stopPropagation();
          store.setState({ selected: spot.letter });
        }}
        className={`absolute h-[17px] w-4 -translate-x-1/2 rounded-[2px] border text-[11.5px] leading-4 font-semibold after:absolute after:top-full after:left-1/2 after:h-[9px] after:border-l before:absolute before:top-[25px] before:left-1/2 before:size-[7px] before:-translate-x-1/2 before:rounded-full before:border ${
          selected === spot.letter
            ? "border-amber bg-[#111c] text-amber before:border-amber after:border-amber"
            : "border-white/60 bg-[#111c] text-white before:border-white after:border-white/60"
        }`}
        style={{ left: x, top: y - 29 }}
      >
        {spot.letter}
      </button>
    );
  });
}
