import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useLocation } from "wouter";
import { api, type Frame, type FrameFigures, type Mark, thumbnailUrl } from "../api/client";
import { Button } from "../parts/Button";
import { Header } from "../parts/Header";
import { useNotice } from "../parts/Notice";
import { share, shutter } from "../wording/format";
import { MARK_KEYS } from "./FrameCard";
import { WaxIcon } from "./Wax";

/** What part of every frame is shown: its middle and how much of the width, in parts of 1. */
interface Look {
  x: number;
  y: number;
  part: number;
}

const WHOLE: Look = { x: 0.5, y: 0.5, part: 1 };
const LEAST_PART = 0.02;
const SETTLED_MS = 250;
const COLOURS = ["#e07a6a", "#7fb56b", "#6f9fe0"];

/** Two to four frames side by side, with one zoom and place for all, and figures of what is seen. */
export function ComparePage({ ids }: { ids: number[] }) {
  const [, go] = useLocation();
  const tell = useNotice();
  const queries = useQueryClient();
  const frames = useQuery({
    queryKey: ["compare", ids],
    queryFn: () => Promise.all(ids.map(api.frame)),
  });
  const [look, setLook] = useState(WHOLE);
  const [chosen, choose] = useState(0);
  const mark = useMutation({
    mutationFn: ({ frame, to }: { frame: Frame; to: Mark }) => api.mark(frame.id, to),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: ["compare"] });
      queries.invalidateQueries({ queryKey: ["frames"] });
    },
    onError: tell,
  });
  useEffect(() => {
    if (frames.error) tell(frames.error);
  }, [frames.error, tell]);
  const all = frames.data ?? [];
  const roll = all[0]?.roll_id;
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const frame = all[chosen];
      const to = MARK_KEYS[event.key];
      if (event.key === "ArrowRight") choose((now) => Math.min(now + 1, all.length - 1));
      if (event.key === "ArrowLeft") choose((now) => Math.max(now - 1, 0));
      if (event.key === "Escape") go(roll ? `/roll/${roll}` : "/");
      if (event.key === "-") setLook(WHOLE);
      if (to && frame) mark.mutate({ frame, to: frame.mark === to ? "none" : to });
    };
    window.addEventListener("keydown", down);
    return () => window.removeEventListener("keydown", down);
  });
  const wide = all.length === 4 ? 2 : all.length;
  return (
    <div className="flex h-full flex-col">
      <Header
        actions={
          <>
            <Button hint="−" onClick={() => setLook(WHOLE)}>
              Whole
            </Button>
            <Button onClick={() => go(roll ? `/roll/${roll}` : "/")} hint="Esc">
              Leave
            </Button>
          </>
        }
      >
        <Link href={roll ? `/roll/${roll}` : "/"} className="hover:text-ink">
          Contact sheet
        </Link>
        <h1 className="font-medium text-ink">Compare</h1>
        <span className="text-note">
          Wheel to look closer, drag to move: all go together. O, . and N mark the chosen one.
        </span>
      </Header>
      <main
        className="grid min-h-0 flex-1 gap-px bg-black"
        style={{ gridTemplateColumns: `repeat(${Math.max(wide, 1)}, minmax(0, 1fr))` }}
      >
        {all.map((frame, i) => (
          <Cell
            key={frame.id}
            frame={frame}
            look={look}
            chosen={i === chosen}
            onChoose={() => choose(i)}
            onLook={setLook}
          />
        ))}
      </main>
    </div>
  );
}

interface CellProps {
  frame: Frame;
  look: Look;
  chosen: boolean;
  onChoose: () => void;
  onLook: (change: (now: Look) => Look) => void;
}

const kept = ({ x, y, part }: Look): Look => {
  const size = Math.min(Math.max(part, LEAST_PART), 1);
  const within = (v: number) => Math.min(Math.max(v, size / 2), 1 - size / 2);
  return { x: within(x), y: within(y), part: size };
};

function Cell({ frame, look, chosen, onChoose, onLook }: CellProps) {
  const box = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(600);
  const [settled, setSettled] = useState(look);
  const drag = useRef<{ x: number; y: number; look: Look } | null>(null);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(look), SETTLED_MS);
    return () => window.clearTimeout(timer);
  }, [look]);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = () => setWide(Math.max(64, Math.round(element.clientWidth * devicePixelRatio)));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    // a wheel that scrolls would scroll the page, so it must be listened to actively
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const factor = event.deltaY > 0 ? 1.2 : 1 / 1.2;
      onLook((now) => kept({ ...now, part: now.part * factor }));
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => {
      observer.disconnect();
      element.removeEventListener("wheel", wheel);
    };
  }, [onLook]);
  const parts = (at: Look) => {
    const half = at.part / 2;
    return `left=${at.x - half}&top=${at.y - half}&right=${at.x + half}&bottom=${at.y + half}`;
  };
  const figures = useQuery({
    queryKey: ["figures", frame.id, settled],
    queryFn: () => api.figures(frame.id, parts(settled)),
    placeholderData: (before) => before,
  });
  const { metadata } = frame;
  const facts = [
    metadata.shutter && shutter(metadata.shutter),
    metadata.aperture && `f/${Number(metadata.aperture.toFixed(1))}`,
    metadata.sensitivity && `ISO ${metadata.sensitivity}`,
  ].filter(Boolean);
  return (
    <section
      aria-label={frame.title}
      className={`flex min-h-0 min-w-0 flex-col bg-ground ${chosen ? "outline-2 -outline-offset-2 outline-amber" : ""}`}
      onPointerDown={onChoose}
    >
      <div
        ref={box}
        role="application"
        aria-label={`${frame.title}: wheel to look closer, drag to move`}
        className="relative min-h-0 flex-1 cursor-grab touch-none overflow-hidden bg-contain bg-center bg-no-repeat"
        // until a capture that was never opened is developed
        style={
          look.part >= 1 ? { backgroundImage: `url("${thumbnailUrl(frame, false)}")` } : undefined
        }
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drag.current = { x: event.clientX, y: event.clientY, look };
        }}
        onPointerMove={(event) => {
          const began = drag.current;
          if (!began || !box.current) return;
          const scale = began.look.part / box.current.clientWidth;
          const tall = (scale * frame.width) / frame.height;
          const x = began.look.x - (event.clientX - began.x) * scale;
          const y = began.look.y - (event.clientY - began.y) * tall;
          onLook((now) => kept({ ...now, x, y }));
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
        onDoubleClick={() => onLook(() => WHOLE)}
      >
        <img
          src={`/api/frames/${frame.id}/region?${parts(look)}&width=${Math.min(wide, 2400)}`}
          alt={frame.title}
          draggable={false}
          className="size-full object-contain"
        />
      </div>
      <footer className="grid grid-cols-[1fr_auto] gap-x-4 px-3 py-2 text-note">
        <p className="truncate">
          <b className="font-medium">
            {frame.number} · {frame.title}
          </b>{" "}
          <span className="text-soft">{facts.join(" · ")}</span>
        </p>
        <span className="text-wax">{frame.mark !== "none" && <WaxIcon mark={frame.mark} />}</span>
        {figures.data && <FigureLine figures={figures.data} />}
      </footer>
    </section>
  );
}

function FigureLine({ figures }: { figures: FrameFigures }) {
  return (
    <dl className="col-span-2 mt-1 flex flex-wrap gap-x-4 text-soft">
      <div className="flex gap-1.5">
        <dt>Sharpness here</dt>
        <dd className="text-ink">{figures.sharpness.toFixed(1)}</dd>
      </div>
      <div className="flex gap-1.5">
        <dt>Headroom</dt>
        {figures.headroom.map((stops, i) => (
          <dd key={COLOURS[i]} style={{ color: COLOURS[i] }}>
            {stops.toFixed(1)}
          </dd>
        ))}
        <dd>stops</dd>
      </div>
      <div className="flex gap-1.5">
        <dt>Clipped</dt>
        {figures.clipped.map((part, i) => (
          <dd key={COLOURS[i]} className={part > 0.001 ? "text-loss" : "text-ink"}>
            {share(part)}
          </dd>
        ))}
      </div>
    </dl>
  );
}
