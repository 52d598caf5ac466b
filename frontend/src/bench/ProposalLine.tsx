import { useBench } from "../state/bench";
import { development, onZone, roman, stops } from "../wording/format";
import { useSpotActions } from "./spots";

/** "A on III puts B on IX⅓: N−1⅓ brings it to VIII", and what can be done about it. */
export function ProposalLine() {
  const proposal = useBench((bench) => bench.proposal);
  const spots = useSpotActions();
  const held = proposal && spots.spotOf(proposal.held);
  const spot = proposal && spots.spotOf(proposal.spot);
  if (!proposal || !held || !spot) return null;
  const { target, n, landsOn, reached, speed } = proposal;
  return (
    <div role="status" className="ml-auto flex items-center gap-3 text-soft">
      <span>
        {held.letter} {onZone(held.zone)} puts {spot.letter} {onZone(spot.zone)}:{" "}
        <b className="font-medium text-ink">{development(Number(n.toFixed(2)))}</b>{" "}
        {reached
          ? `brings it to ${roman(target)}`
          : `, as far as this film goes, brings it to ${roman(landsOn)}`}
        {Math.abs(speed) >= 0.1 &&
          `, ${stops(Math.abs(speed))} stop ${speed < 0 ? "slower" : "faster"}`}
        .
      </span>
      <button
        type="button"
        onClick={spots.takeProposal}
        className="rounded bg-amber px-2 py-0.5 font-semibold text-[#1a1206]"
      >
        Develop {development(Number(n.toFixed(2)))}
      </button>
      <button
        type="button"
        onClick={spots.placeInstead}
        className="rounded bg-raise px-2 py-0.5 text-ink hover:bg-lift"
      >
        Place {spot.letter} instead
      </button>
      <button type="button" onClick={spots.dropProposal} className="text-faint hover:text-ink">
        Leave
      </button>
    </div>
  );
}
