import type { Facts } from "../api/client";
import { Fold } from "../parts/Fold";
import { roving } from "../parts/roving";
import { SPECTRUM, wavelengthColour } from "../parts/spectrum";
import { useBench, useBenchStore, useTray } from "../state/bench";
import { offOf } from "./parts";
import { STATIONS } from "./stations";

/** The light path as a row of stations, and under it the beam: coloured until film makes it grey. */
export function LightPathStrip() {
  const store = useBenchStore();
  const { frame, shelf, facts, reading } = useTray();
  // figures are of what is shown, and so is what is said
  const recipe = useBench((bench) => bench.trial ?? bench.recipe);
  const { chosen, folded, trayed, onChoose } = useBench(
    ({ station, folded, tray, along, history, openStation }) => ({
      chosen: station,
      folded,
      trayed: tray && !along && !history,
      onChoose: openStation,
    }),
  );
  return (
    <section aria-label="Light path" className="relative shrink-0 border-b border-black bg-panel">
      <div
        role="tablist"
        aria-label="Stations"
        onKeyDown={roving("tab")}
        className="grid"
        style={{ gridTemplateColumns: `repeat(${STATIONS.length}, minmax(0, 1fr))` }}
      >
        {STATIONS.map((station) => {
          const on = station.name === chosen;
          const PlotOf = station.plot;
          const off = offOf(recipe, station.name);
          return (
            <button
              key={station.name}
              type="button"
              role="tab"
              aria-selected={on}
              aria-controls={trayed ? "station" : undefined}
              tabIndex={on ? 0 : -1}
              onClick={() => onChoose(station.name)}
              className={`flex min-w-0 border-r border-[#161616] px-3 text-left -outline-offset-2 last:border-r-0 ${
                folded ? "gap-2 pt-1.5 pb-2" : "flex-col pt-2 pb-2.5"
              } ${on ? "bg-raise" : "hover:bg-[#242424]"}`}
            >
              <span
                className={`max-w-full truncate text-note font-[560] ${on ? "text-amber" : "text-ink"}`}
              >
                {station.title}
                {off && <span className="font-normal text-faint"> {off}</span>}
              </span>
              {!folded && (
                <div className="mt-1 h-10 w-full">
                  {facts && reading && PlotOf && <PlotOf facts={facts} reading={reading} small />}
                </div>
              )}
              <span
                className={`block min-h-4 max-w-full truncate text-small text-soft ${folded ? "pt-px" : "mt-1"}`}
              >
                {station.says(recipe, shelf, facts, frame)}
              </span>
            </button>
          );
        })}
      </div>
      <Fold
        what="the light path"
        folded={folded}
        to="up"
        onFold={() => store.setState({ folded: !folded })}
        className="absolute top-1 right-1.5"
      />
      <div className="h-[3px]" style={{ background: beam(facts) }} />
    </section>
  );
}

/** The spectrum of the light over Capture, what the filter leaves of it over Light, then grey. */
function beam(facts: Facts | null): string {
  if (!facts) return "#3a3a3a";
  const stops = (curve: number[], from: number, to: number) =>
    SPECTRUM.slice(2, 49).map((nm, i, all) => {
      const strength = Math.min(1, (curve[i + 2] ?? 0) * 1.15);
      return `${wavelengthColour(nm, strength)} ${(from + ((to - from) * i) / (all.length - 1)).toFixed(2)}%`;
    });
  const part = 100 / STATIONS.length;
  return `linear-gradient(90deg, ${[
    ...stops(facts.light.y, 0, part),
    ...stops(facts.through.y, part, 2 * part - 0.4),
    `#8f8f8f ${2 * part}%`,
    `#9a9a9a ${4 * part}%`,
    "#d6d6d6 100%",
  ].join(",")})`;
}
