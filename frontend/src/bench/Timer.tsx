import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Facts, Recipe } from "../api/client";
import { Button } from "../parts/Button";
import { Segments } from "../parts/Segments";
import { useBench, useBenchStore } from "../state/bench";
import { gradeName, seconds } from "../wording/format";
import { doneAt, endsOf, type Step } from "./exposing";

const SPEEDS = [
  { value: "1", text: "real time" },
  { value: "4", text: "4 ×" },
  { value: "16", text: "16 ×" },
] as const;
const TICK_MS = 60;

/** The exposures a print takes, one after the other. */
function sequence(recipe: Recipe, facts: Facts): Step[] {
  if (!facts.split) {
    return [{ text: `Base exposure, grade ${gradeName(facts.grade)}`, seconds: facts.time }];
  }
  const { soft_time, hard_time } = recipe.enlarger;
  return [
    { text: "Through 00", seconds: soft_time },
    { text: "Through 5", seconds: hard_time },
  ].filter((step) => step.seconds > 0);
}

/** The enlarger's timer: the exposure counts down with a metronome, and the print comes. */
export function Timer() {
  const store = useBenchStore();
  const { recipe, facts } = useBench(({ recipe, facts }) => ({ recipe, facts }));
  const steps = useMemo(() => (facts ? sequence(recipe, facts) : []), [recipe, facts]);
  const [speed, setSpeed] = useState<(typeof SPEEDS)[number]["value"]>("1");
  const [lamp, setLamp] = useState<"off" | "focus" | "expose">("off");
  const [done, setDone] = useState(0);
  const [sound, setSound] = useState(true);
  const audio = useRef<AudioContext | null>(null);

  const tick = useCallback(() => {
    if (!sound) return;
    audio.current ??= new AudioContext();
    const context = audio.current;
    const tone = context.createOscillator();
    const level = context.createGain();
    tone.frequency.value = 880;
    level.gain.setValueAtTime(0.12, context.currentTime);
    level.gain.exponentialRampToValueAtTime(0.001, context.currentTime + 0.05);
    tone.connect(level).connect(context.destination);
    tone.start();
    tone.stop(context.currentTime + 0.06);
  }, [sound]);

  // what is exposed depends on the answers of the server, which come all the time; the run does not
  const now = useRef({ done, steps, tick });
  now.current = { done, steps, tick };
  useEffect(() => {
    if (lamp !== "expose") return;
    const run = { began: performance.now(), done: now.current.done, speed: Number(speed) };
    const timer = window.setInterval(() => {
      const before = now.current.done;
      const { done: next, out } = doneAt(run, performance.now(), now.current.steps);
      if (Math.floor(next) > Math.floor(before)) now.current.tick();
      now.current.done = next;
      setDone(next);
      if (out) setLamp("off");
    }, TICK_MS);
    return () => window.clearInterval(timer);
  }, [lamp, speed]);

  useEffect(() => {
    store.setState({ shown: { kind: "timed", exposed: lamp === "focus" ? "projected" : done } });
  }, [lamp, done, store]);
  useEffect(() => () => void audio.current?.close(), []);

  const ends = endsOf(steps);
  const current = ends.findIndex((end) => done < end - 1e-6);
  const left = (ends[current] ?? done) - done;
  const finished = current < 0;
  return (
    <section
      aria-label="Timer"
      className="absolute top-4 right-4 z-30 w-[248px] rounded-lg bg-panel p-4 shadow-[0_12px_60px_#000c]"
    >
      <div className="flex items-baseline justify-between">
        <h2 className="text-head font-semibold">Timer</h2>
        <button
          type="button"
          onClick={() => store.setState({ shown: { kind: "print" } })}
          className="text-note text-faint hover:text-ink"
        >
          Put it away
        </button>
      </div>
      <p
        role="timer"
        className={`my-2 rounded bg-well py-2 text-center text-[40px] leading-none font-semibold ${
          lamp === "expose" ? "text-amber" : "text-ink"
        }`}
      >
        {left.toFixed(1)}
        <span className="ml-1 text-body font-normal text-soft">s</span>
      </p>
      <ol className="mb-2 text-note">
        {steps.map((step, i) => (
          <li
            key={step.text}
            className={`flex justify-between ${i === current ? "text-ink" : "text-soft"}`}
          >
            <span>
              {finished || (current >= 0 && i < current) ? "Done: " : ""}
              {step.text}
            </span>
            <span>{seconds(step.seconds)} s</span>
          </li>
        ))}
      </ol>
      <Segments label="Speed" value={speed} onChange={setSpeed} options={SPEEDS} />
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button
          pressed={lamp === "focus"}
          title="The whole negative on the easel, without paper"
          onClick={() => setLamp(lamp === "focus" ? "off" : "focus")}
        >
          Focus
        </Button>
        {lamp === "expose" ? (
          <Button go onClick={() => setLamp("off")}>
            Stop
          </Button>
        ) : (
          <Button go disabled={finished} onClick={() => setLamp("expose")}>
            {done > 0 && !finished ? "Go on" : "Expose"}
          </Button>
        )}
        <Button
          disabled={done === 0}
          onClick={() => {
            setLamp("off");
            setDone(0);
          }}
        >
          New sheet
        </Button>
        <Button pressed={sound} onClick={() => setSound(!sound)}>
          Ticks
        </Button>
      </div>
    </section>
  );
}
