import { useQuery } from "@tanstack/react-query";
import {
  type ReactNode,
  startTransition,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { Link } from "wouter";
import {
  api,
  type Frame,
  type HeldZones,
  type LiveFrame,
  type Print,
  type RecipeSchema,
  type Shelf,
  type StripFacts,
  type TestStrip,
} from "../api/client";
import { Button } from "../parts/Button";
import { Header } from "../parts/Header";
import { useNotice } from "../parts/Notice";
import { type StationName, usePrint } from "../state/usePrint";
import { DeliverDialog } from "./DeliverDialog";
import { FocusOverlay } from "./FocusOverlay";
import { LightPathStrip } from "./LightPathStrip";
import { type Circle, MeterOverlay, MeterSizes, radiusOf } from "./Meter";
import { Opening } from "./Opening";
import { PictureView, type Placed, type Surround } from "./PictureView";
import { PlateLegend } from "./PlateLegend";
import { RingAround } from "./RingAround";
import { ScreenCheck } from "./ScreenCheck";
import { Timer } from "./Timer";
import { type Handles, type Parts, Tray } from "./trays/tray";
import { useCaptureTools } from "./useCaptureTools";
import { useHuePull } from "./useHuePull";
import { useSpot } from "./useSpot";
import { useSpots } from "./useSpots";
import type { Point, Zoom } from "./views";
import { ZoneHandles } from "./ZoneHandles";
import { PRINT_TONES, type Side, ZoneStaff } from "./ZoneStaff";

/** Loads what the Bench needs, and says so when it cannot. */
export function BenchPage({ printId }: { printId: number }) {
  const print = useQuery({ queryKey: ["print", printId], queryFn: () => api.print(printId) });
  const frame = useQuery({
    queryKey: ["frame", print.data?.frame_id],
    queryFn: () => api.frame(print.data?.frame_id ?? 0),
    enabled: print.isSuccess,
  });
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: api.shelf, staleTime: Infinity });
  const schema = useQuery({ queryKey: ["schema"], queryFn: api.recipeSchema, staleTime: Infinity });
  const error = print.error ?? frame.error ?? shelf.error ?? schema.error;
  if (error) {
    return (
      <div className="flex h-full flex-col">
        <Header actions={null}>
          <Link href="/">Contact sheet</Link>
        </Header>
        <div role="alert" className="m-auto max-w-md text-center">
          <h1 className="text-head font-semibold">This print cannot be opened</h1>
          <p className="mt-2 text-soft">{error.message}</p>
        </div>
      </div>
    );
  }
  if (!print.data || !frame.data || !shelf.data || !schema.data) {
    return (
      <div className="flex h-full flex-col">
        <Header actions={null}>
          <Link href="/">Contact sheet</Link>
        </Header>
        {/* where the picture will be */}
        <div className="grid flex-1 grid-cols-[304px_1fr] pt-[102px] pb-[95px]">
          <div />
          <div className="relative bg-[#3b3b3b]">
            {print.data && <Opening frame={print.data.frame_id} margin={12} />}
          </div>
        </div>
      </div>
    );
  }
  return <Bench opened={print.data} frame={frame.data} shelf={shelf.data} schema={schema.data} />;
}

interface BenchProps {
  opened: Print;
  frame: Frame;
  shelf: Shelf;
  schema: RecipeSchema;
}

const typing = (target: EventTarget | null) =>
  target instanceof HTMLSelectElement ||
  (target instanceof HTMLInputElement && target.type !== "checkbox");

/** Where a print is made. */
function Bench({ opened, frame, shelf, schema }: BenchProps) {
  const tell = useNotice();
  const { print, recipe, change, kept, undo, redo } = usePrint(opened, tell);
  const [station, setStation] = useState<StationName>("light");
  const [folded, setFolded] = useState(false);
  const [colour, setColour] = useState(false);
  const [proof, setProof] = useState(false);
  const [clipped, setClipped] = useState(false);
  const [plate, setPlate] = useState(false);
  const [side, setSide] = useState<Side>("scene");
  const [exposed, setExposed] = useState<number | null>(null);
  const [timing, setTiming] = useState(false);
  const [checking, setChecking] = useState(false);
  const [circle, setCircle] = useState<Circle>("small");
  const radius = radiusOf(circle, frame);
  const show = colour
    ? "colour"
    : clipped
      ? "clipped"
      : plate
        ? "plate"
        : proof
          ? "proof"
          : "print";
  const [zoom, setZoom] = useState<Zoom>("fit");
  const [surround, setSurround] = useState<Surround>("grey");
  const [header, setHeader] = useState<LiveFrame | null>(null);
  const [connected, setConnected] = useState(true);
  const [delivering, setDelivering] = useState(false);
  const [point, setPoint] = useState<Point | null>(null);
  // the finished picture's size follows from its geometry, which the server knows
  const width = header?.picture_width ?? frame.width;
  const height = header?.picture_height ?? frame.height;
  // the picture may have become smaller under a pointer that rests
  const on = point && point.x < width && point.y < height ? point : null;
  const spot = useSpot(frame.id, recipe, on, radius);
  const [metering, setMetering] = useState(false);
  const [pulling, setPulling] = useState(false);
  const [part, setParts] = useState<Parts>({
    capture: "light",
    light: "glass",
    film: "stock",
    development: "negative",
    paper: "paper",
  });
  const setPart = (next: Partial<Parts>) => setParts((now) => ({ ...now, ...next }));
  const [handles, setHandles] = useState<Handles>("zone_lift");
  const [breaking, setBreaking] = useState(false);
  const [ring, setRing] = useState(false);
  const hues = useHuePull(recipe, spot, change);
  const [strip, setStrip] = useState<TestStrip | null>(null);
  const [held, setHeld] = useState<HeldZones | null>(null);
  // a strip lies only where its kind is chosen
  const over = station === "enlarger" ? "time" : station === "paper" ? "grade" : null;
  const laid = !colour && strip?.over === over ? strip : null;
  const take = (facts: StripFacts, value: number) => {
    const now = header?.facts;
    if (facts.over === "time" && now?.split) {
      // both exposures keep their proportion
      const part = (seconds = 0) => Number(((seconds * value) / now.time).toFixed(2));
      const { soft_time, hard_time } = recipe.enlarger;
      change(
        "enlarger",
        { soft_time: part(soft_time), hard_time: part(hard_time) },
        `${value.toFixed(1)} s from the test strip`,
      );
    } else if (facts.over === "time") {
      const time = Number(value.toFixed(2));
      change("enlarger", { time }, `${time.toFixed(1)} s from the test strip`);
    } else {
      const grade = Number(value.toFixed(2));
      change("paper", { grade }, `Grade ${grade} from the contrast strip`);
    }
    setStrip(null);
  };
  const paper = shelf.papers.find((p) => p.id === recipe.paper.paper);
  const pulls = pulling && station === "light" && part.light === "hues";
  const shown = useMemo(() => ({ ...frame, width, height }), [frame, width, height]);
  const tools = useCaptureTools({
    frame,
    recipe,
    header,
    part: station === "capture" ? part.capture : null,
    hidden: colour,
    size: shown,
    change,
    tell,
  });
  const tool = tools.tool ?? (pulls ? hues : null);
  const spots = useSpots(recipe, header?.reading ?? null, change, tell, radius, tools.toCapture);
  const keys = useRef({ spots, tools, placement: 0 });
  // of the recipe that the spots were read under, which may lag behind the one on the bench
  const placement = header?.facts.placement ?? 0;
  keys.current = { spots, tools, placement };
  const onHeader = useCallback((next: LiveFrame) => startTransition(() => setHeader(next)), []);

  useEffect(() => {
    if (ring) return; // its keys are its own
    const down = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      if ((event.ctrlKey || event.metaKey) && key === "z") {
        event.preventDefault();
        event.shiftKey ? redo() : undo();
        return;
      }
      if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const { spots: now, placement: under } = keys.current;
      const spotNow = now.all.find((s) => s.letter === now.selected);
      if (key === "m" && !event.repeat) setMetering((on) => !on);
      if (key === "h" && !event.repeat) {
        setStation("light");
        setParts((now) => ({ ...now, light: "hues" }));
        setPulling((on) => !on);
      }
      if (key === "enter") keys.current.tools.onCropping(null);
      if (key === "escape") {
        keys.current.tools.leave();
        setMetering(false);
        setPulling(false);
        setStrip(null);
        setHeld(null);
        setPlate(false);
        now.select(null);
        now.dropProposal();
      }
      if (spotNow && /^\d$/.test(key)) now.put(spotNow, under, Number(key));
      if (spotNow && key === "delete" && !event.defaultPrevented) now.remove(spotNow.letter);
      if (key === "c" && !event.repeat) setColour(true);
      if (key === "z" && !event.repeat) setPlate((on) => !on);
      if (key === "v" && !event.repeat) setProof((on) => !on);
      if (key === "p" && !event.repeat) setZoom((now) => (now === "reading" ? "fit" : "reading"));
      if (key === "r" && !event.repeat) setRing(true);
      if (key === "+") setZoom("full");
      if (key === "-") setZoom("fit");
    };
    const up = (event: KeyboardEvent) => event.key.toLowerCase() === "c" && setColour(false);
    const away = () => setColour(false);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", away);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", away);
    };
  }, [undo, redo, ring]);

  /** What lies over the picture. */
  const overlay = (at: Placed): ReactNode => {
    const tooled = tools.overlay?.(at);
    if (tooled) return tooled;
    const focusing = station === "light" && part.light === "air" && !colour;
    if (focusing && (recipe.light.focus_blur ?? 0) > 0) {
      return <FocusOverlay at={at} frame={shown} light={recipe.light} change={change} />;
    }
    return metering ? <MeterOverlay at={at} point={point} radius={radius} /> : null;
  };

  return (
    <div className="flex h-full flex-col">
      <Header
        actions={
          <>
            <Button
              disabled={!print.undo}
              title={print.undo ? `Take back: ${print.undo}` : "Nothing to take back"}
              onClick={undo}
            >
              Undo
            </Button>
            <Button
              disabled={!print.redo}
              title={print.redo ? `Bring back: ${print.redo}` : "Nothing to bring back"}
              onClick={redo}
            >
              Redo
            </Button>
            <Button
              hint="M"
              pressed={metering}
              title="Click on the picture to meter a spot; drag its tag on the zone staff, or press a digit, to place it"
              onClick={() => setMetering(!metering)}
            >
              Meter
            </Button>
            <Button
              hint="hold C"
              pressed={colour}
              onPointerDown={() => setColour(true)}
              onPointerUp={() => setColour(false)}
              onPointerLeave={() => setColour(false)}
            >
              Colour
            </Button>
            <Button
              hint="+ −"
              pressed={zoom === "full"}
              onClick={() => setZoom(zoom === "full" ? "fit" : "full")}
            >
              100 %
            </Button>
            <Button
              hint="P"
              pressed={zoom === "reading"}
              title="As large as a print of 40 cm is at reading distance: here grain is judged"
              onClick={() => setZoom(zoom === "reading" ? "fit" : "reading")}
            >
              40 cm
            </Button>
            <Button
              hint="V"
              pressed={proof}
              title="As the print is seen on its paper, on a white wall"
              onClick={() => setProof(!proof)}
            >
              Proof
            </Button>
            <Button go onClick={() => setDelivering(true)}>
              Deliver
            </Button>
          </>
        }
      >
        <nav aria-label="Where you are" className="flex min-w-0 gap-2.5 whitespace-nowrap">
          <Link href={`/roll/${frame.roll_id}`} className="hover:text-ink">
            {frame.roll_name}
          </Link>
          <span aria-hidden="true">/</span>
          <b className="font-medium text-ink">
            Frame {String(frame.number).padStart(2, "0")} · {frame.title}
          </b>
          <span aria-hidden="true">/</span>
          <span className="truncate">{print.name}</span>
        </nav>
        {!connected && (
          <span role="status" className="text-loss">
            No answer from Silvrin, trying again…
          </span>
        )}
      </Header>
      <LightPathStrip
        frame={frame}
        recipe={recipe}
        shelf={shelf}
        facts={header?.facts ?? null}
        reading={header?.reading ?? null}
        chosen={station}
        folded={folded}
        onChoose={setStation}
        onFold={() => setFolded(!folded)}
      />
      <div className="grid min-h-0 flex-1 grid-cols-[304px_1fr]">
        <Tray
          station={station}
          frame={frame}
          recipe={recipe}
          schema={schema}
          shelf={shelf}
          facts={header?.facts ?? null}
          reading={header?.reading ?? null}
          change={change}
          pulling={pulling}
          onPulling={setPulling}
          part={part}
          onPart={setPart}
          tools={tools}
          handles={handles}
          onHandles={setHandles}
          onBreaking={setBreaking}
          onRing={() => setRing(true)}
          onClipped={setClipped}
          onTimer={() => setTiming(true)}
          strip={laid}
          laid={header?.strip ?? null}
          onStrip={setStrip}
        />
        <div className="flex min-h-0 min-w-0 flex-col">
          <div className="relative grid min-h-0 flex-1">
            {metering && <MeterSizes circle={circle} onCircle={setCircle} />}
            {show === "plate" && header && (
              <PlateLegend
                tones={side === "print" ? PRINT_TONES : header.reading.zone_tones}
                values={side === "print"}
              />
            )}
            {proof && (
              <button
                type="button"
                onClick={() => setChecking(true)}
                className="absolute bottom-2 left-3 z-20 text-small text-[#555] hover:text-black"
              >
                Screen check…
              </button>
            )}
            {timing && header && (
              <Timer
                recipe={recipe}
                facts={header.facts}
                onExposed={setExposed}
                onClose={() => setTiming(false)}
              />
            )}
            <PictureView
              frame={shown}
              recipe={tools.shown}
              show={show}
              plate={side === "print" ? "print" : "scene"}
              exposed={exposed}
              sheet={show === "proof" ? (paper?.tint ?? "#fff") : null}
              zoom={laid || tools.cropping ? "fit" : zoom}
              surround={show === "proof" ? "white" : surround}
              spots={spots}
              metering={metering}
              tool={tool}
              strip={laid}
              held={held}
              breaking={breaking}
              overlay={overlay}
              onTaken={take}
              onZoom={setZoom}
              onPoint={setPoint}
              onHeader={onHeader}
              onConnected={setConnected}
              onProblem={tell}
            />
          </div>
          {station === "development" && part.development === "zones" && (
            <ZoneHandles recipe={recipe} handles={handles} change={change} />
          )}
          {station === "paper" && part.paper === "values" && (
            <ZoneHandles recipe={recipe} handles="value_lift" change={change} />
          )}
          <ZoneStaff
            side={station === "paper" && part.paper === "values" ? "print" : side}
            onSide={setSide}
            plate={plate}
            onPlate={setPlate}
            facts={header?.facts ?? null}
            reading={header?.reading ?? null}
            spot={spot}
            spots={spots}
            placement={placement}
            surround={surround}
            onSurround={setSurround}
            held={held}
            onHeld={setHeld}
          />
        </div>
      </div>
      {checking && <ScreenCheck onClose={() => setChecking(false)} />}
      {ring && (
        <RingAround
          frame={frame}
          recipe={recipe}
          schema={schema}
          shelf={shelf}
          facts={header?.facts ?? null}
          station={station}
          onTake={(changes, label) => {
            setRing(false);
            changes.forEach(([of, values], i) => {
              change(of, values, i === changes.length - 1 ? label : undefined);
            });
          }}
          onClose={() => setRing(false)}
        />
      )}
      <DeliverDialog
        printId={print.id}
        frame={frame}
        open={delivering}
        onOpen={setDelivering}
        kept={kept}
      />
    </div>
  );
}
