import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Frame, Print, RecipeSchema, Shelf } from "../api/client";
import { DeliverDialog } from "../deliver/DeliverDialog";
import { useNotice } from "../parts/Notice";
import { ApplyDialog } from "../recipes/ApplyDialog";
import { KeepDialog } from "../recipes/KeepDialog";
import { RecipesDialog } from "../recipes/RecipesDialog";
import {
  BenchContext,
  benchStore,
  type Bench as State,
  useBench,
  useBenchStore,
} from "../state/bench";
import { BenchHeader } from "./BenchHeader";
import { Panes } from "./compare/Panes";
import { FindDialog } from "./find/FindDialog";
import { KeysSheet } from "./KeysSheet";
import { LightPathStrip } from "./LightPathStrip";
import { MeterSizes } from "./Meter";
import { CarryDialog } from "./map/CarryDialog";
import { HeatLegend } from "./map/HeatLegend";
import { NotesDialog } from "./map/NotesDialog";
import { ZoneLimitLane } from "./map/ZoneLimitLane";
import { MatchDialog } from "./match/MatchDialog";
import { PlateLegend } from "./PlateLegend";
import { ProposedLine } from "./ProposedLine";
import { PictureView } from "./picture/PictureView";
import { PressBar } from "./picture/PressBar";
import { WallBar } from "./picture/Wall";
import { History } from "./prints/History";
import { Apart } from "./ring/Apart";
import { RingAround } from "./ring/RingAround";
import { ScreenCheck } from "./ScreenCheck";
import { SpotUnderPointer } from "./SpotUnderPointer";
import { StartingPrints } from "./start/StartingPrints";
import { Timer } from "./Timer";
import { FoldedTray, Tray } from "./Tray";
import { useBenchKeys } from "./useBenchKeys";
import { ZoneHandles } from "./ZoneHandles";
import { tonesOf, ZoneStaff } from "./ZoneStaff";

interface BenchProps {
  opened: Print;
  frame: Frame;
  shelf: Shelf;
  schema: RecipeSchema;
}

/** Where a print is made. */
export function Bench({ opened, ...given }: BenchProps) {
  const tell = useNotice();
  const queries = useQueryClient();
  const [store] = useState(() => benchStore(opened, { ...given, tell }));
  useEffect(() => {
    const { flush } = store.printing;
    window.addEventListener("pagehide", flush);
    return () => window.removeEventListener("pagehide", flush);
  }, [store]);
  // the contact sheet shows the newest state of a print
  useEffect(
    () => () => {
      store.printing
        .kept()
        .then(() => queries.invalidateQueries({ queryKey: ["frames"] }))
        .catch(() => undefined);
      queries.removeQueries({ queryKey: ["print", opened.id] });
    },
    [store, queries, opened.id],
  );
  return (
    <BenchContext.Provider value={store}>
      <Table />
    </BenchContext.Provider>
  );
}

function Table() {
  useBenchKeys();
  const { along, alone, history, tray } = useBench(({ along, alone, history, tray }) => ({
    along,
    alone,
    history,
    tray,
  }));
  const bare = along !== null || alone;
  const beside = history ? "history" : tray ? "tray" : "folded";
  const columns =
    beside === "folded"
      ? "grid-cols-[20px_1fr]"
      : "grid-cols-[304px_1fr] wide:grid-cols-[400px_1fr]";
  return (
    <div className="flex h-full flex-col">
      {!alone && <BenchHeader />}
      {!alone && <LightPathStrip />}
      <div className={`grid min-h-0 flex-1 ${bare ? "grid-cols-1" : columns}`}>
        {!bare && { history: <History />, tray: <Tray />, folded: <FoldedTray /> }[beside]}
        <div className="flex min-h-0 min-w-0 flex-col">
          <Panes>
            {!bare && <OverThePicture />}
            <PictureView />
          </Panes>
          {!bare && <UnderThePicture />}
        </div>
      </div>
      {along && <StartingPrints />}
      <Dialogs />
    </div>
  );
}

function UnderThePicture() {
  return (
    <>
      <ProposedLine />
      <SpotUnderPointer />
      <Handles />
      <ZoneStaff />
    </>
  );
}

function OverThePicture() {
  const { metering, heat, shown, press, side, tones } = useBench(
    ({ tool, shown, peek, side, reading }) => ({
      heat: peek === "heat",
      metering: tool.kind === "meter",
      shown: peek ? null : shown.kind,
      press: !peek && shown.kind === "press" ? shown.through : null,
      side,
      tones: tonesOf(reading, side),
    }),
  );
  return (
    <>
      {metering && <MeterSizes />}
      {heat && <HeatLegend />}
      {shown === "plate" && <PlateLegend tones={tones} side={side} />}
      {shown === "proof" && <WallBar />}
      {press && <PressBar through={press} />}
      {shown === "timed" && <Timer />}
    </>
  );
}

/** The handles over the zone staff, where a part of a station has some. */
function Handles() {
  const lane = useBench(({ station, parts, handles }) =>
    station === "development" && parts.development === "zones"
      ? handles
      : station === "paper" && parts.paper === "values"
        ? "value_lift"
        : null,
  );
  const limits = useBench(
    (bench) => bench.station === "enlarger" && bench.parts.enlarger === "map",
  );
  if (limits) return <ZoneLimitLane />;
  return lane && <ZoneHandles lane={lane} />;
}

function Dialogs() {
  const store = useBenchStore();
  const { dialog, frame, print, kept } = useBench(({ dialog, frame, print, kept }) => ({
    dialog,
    frame,
    print: print.id,
    kept,
  }));
  const close = () => store.setState({ dialog: null });
  const show = (next: State["dialog"]) => store.setState({ dialog: next });
  return (
    <>
      {dialog === "screen" && <ScreenCheck onClose={close} />}
      {dialog === "carry" && <CarryDialog onClose={close} />}
      {dialog === "notes" && <NotesDialog onClose={close} />}
      {dialog === "find" && <FindDialog onClose={close} />}
      {dialog === "match" && <MatchDialog onClose={close} />}
      {dialog === "keys" && <KeysSheet onClose={close} />}
      {dialog === "keep" && <KeepDialog print={print} kept={kept} onClose={close} />}
      {dialog === "recipes" && (
        <RecipesDialog
          print={print}
          kept={kept}
          onKeep={() => show("keep")}
          onApply={() => show("apply")}
          onClose={close}
        />
      )}
      {dialog === "apply" && (
        <ApplyDialog
          frames={[frame.id]}
          before={kept}
          onDone={() => store.getState().reload()}
          onClose={close}
        />
      )}
      {dialog === "apart" && <Apart onClose={close} />}
      {dialog === "ring" && <RingAround onClose={close} />}
      {dialog === "deliver" && (
        <DeliverDialog
          prints={[print]}
          of={`${frame.roll_name}, frame ${frame.number}, ${frame.title}`}
          onClose={close}
          kept={kept}
          onPress={(through) => store.setState({ dialog: null, shown: { kind: "press", through } })}
        />
      )}
    </>
  );
}
