import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Facts, Pass } from "../api/client";
import { Button } from "../parts/Button";
import { Segments } from "../parts/Segments";
import { useBench, useBenchStore } from "../state/bench";
import { gradeName, seconds } from "../wording/format";
import { doneAt, endsOf, type Step } from "./exposing";
import { letterOf, passesOf, proposedName } from "./map/passes";
import { useTicks } from "./ticks";

const NONE: Facts["sequence"] = [];

const SPEEDS = [
  { value: "1", text: "real time" },
  { value: "4", text: "4 ×" },
  { value: "16", text: "16 ×" },
] as const;
const TICK_MS = 60;

type Part = Facts["sequence"][number];

const said = ({ what, number }: Part, facts: Facts, passes: Pass[]): string => {
  if (what === "soft") return "Through 00";
  if (what === "hard") return "Through 5";
  const pass = passes[number ?? -1];
  if (!pass || number === null) return `Base exposure, grade ${gradeName(facts.grade)}`;
  const through = pass.grade === null ? "" : `, grade ${gradeName(pass.grade)}`;
  return `${letterOf(number)}: ${pass.name || proposedName(pass)}${through}`;
};

/** The enlarger's timer: the exposure counts down with a metronome, and the print comes. */
export function Timer() {
  const store = useBenchStore();
  const { recipe, facts } = useBench(({ recipe, facts }) => ({ recipe, facts }));
  const sequence = facts?.sequence ?? NONE;
  // the lamp goes out after each of these; what is held back lies in their course
  const steps: Step[] = useMemo(
    () =>
      sequence
        .filter((part) => part.what !== "dodge")
        .map((part) => ({ seconds: part.ends - part.begins })),
    [sequence],
  );
  const passes = passesOf(recipe);
  const [speed, setSpeed] = useState<(typeof SPEEDS)[number]["value"]>("1");
  const [lamp, setLamp] = useState<"off" | "focus" | "expose">("off");
  const [done, setDone] = useState(0);
  const [sound, setSound] = useState(true);
  const ring = useTicks();
  const tick = useCallback(() => sound && ring(), [sound, ring]);

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
        {facts &&
          sequence.map((part) => {
            const over = done >= part.ends - 1e-6;
            const now = !over && done >= part.begins - 1e-6;
            const back = part.what === "dodge";
            return (
              <li
                key={`${part.what} ${part.number}`}
                className={`flex justify-between gap-2 ${now ? "text-ink" : "text-soft"} ${back ? "pl-2.5" : ""}`}
              >
                <span className="truncate">
                  {over ? "Done: " : back && now && lamp === "expose" ? "Hold back " : ""}
                  {said(part, facts, passes)}
                </span>
                <span className="shrink-0">
                  {back && `${seconds(part.begins)} to ${seconds(part.ends)}: −`}
                  {seconds(part.ends - part.begins)} s
                </span>
              </li>
            );
          })}
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
