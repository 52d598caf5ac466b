import { useRef } from "react";
import type { StationName } from "../api/client";
import { Fold } from "../parts/Fold";
import { useBench, useBenchStore, useTray } from "../state/bench";
import { useLit } from "./find/useLit";
import { usePropose } from "./proposal";
import { OffNote, Switches } from "./Switches";
import { STATIONS } from "./stations";

/** Folds the tray away, and out again. */
function FoldTray() {
  const store = useBenchStore();
  const tray = useBench((bench) => bench.tray);
  const onFold = () => store.setState({ tray: !tray });
  return <Fold what="the tray" folded={!tray} to="left" onFold={onFold} />;
}

/** Where the tray was. */
export function FoldedTray() {
  return (
    <div className="border-r border-black bg-panel pt-4">
      <FoldTray />
    </div>
  );
}

/** Stations of which nothing is proposed. */
const UNPROPOSED: StationName[] = ["toner", "mount"];

/** The controls of the chosen station, and its plot. */
export function Tray() {
  const store = useBenchStore();
  const chosen = useBench((bench) => bench.station);
  const { facts, reading, parts } = useTray();
  const kind = useBench((bench) => bench.frame.kind);
  const { propose, busy } = usePropose();
  const tray = useRef<HTMLElement>(null);
  useLit(tray);
  const station = STATIONS.find((s) => s.name === chosen);
  if (!station) return null;
  const { Controls } = station;
  const PlotOf = station.below ? station.below(parts) : station.plot;
  return (
    <aside
      ref={tray}
      tabIndex={-1}
      aria-label={`${station.title} station`}
      className="min-h-0 overflow-y-auto border-r border-black bg-panel"
    >
      <div
        id="station"
        role="tabpanel"
        aria-label={station.title}
        className="flex min-h-full flex-col px-4 py-3.5"
      >
        <div className="flex flex-wrap items-baseline gap-x-2">
          <h1 className="text-head font-semibold">{station.title}</h1>
          <div className="ml-auto flex gap-2 text-note whitespace-nowrap text-faint">
            {!UNPROPOSED.includes(station.name) &&
              (station.name !== "capture" || kind !== "raw") && (
                <button
                  type="button"
                  disabled={busy}
                  title={`Meters the picture and sets anew what of ${station.title} is proposed; the other stations stay`}
                  onClick={() => propose(station.name)}
                  className="hover:text-ink disabled:opacity-50"
                >
                  {busy ? "Metering…" : "Propose"}
                </button>
              )}
            {station.ring && (
              <button
                type="button"
                title="Small prints of this picture that differ in settings of this station (R)"
                onClick={() => store.setState({ dialog: "ring" })}
                className="hover:text-ink"
              >
                Ring-around
              </button>
            )}
            <Switches station={station.name} title={station.title} />
            <FoldTray />
          </div>
        </div>
        <p className="mb-3.5 text-note text-soft">{station.about}</p>
        <OffNote station={station.name} title={station.title} />
        {/* a list among the controls takes the height there is */}
        <div className="flex shrink-0 flex-col has-data-fills:grow-[9]">
          <Controls />
        </div>
        {facts && reading && PlotOf && (
          <div className="mt-auto flex max-h-[420px] shrink-0 grow flex-col justify-end pt-3">
            <PlotOf facts={facts} reading={reading} />
          </div>
        )}
      </div>
    </aside>
  );
}
