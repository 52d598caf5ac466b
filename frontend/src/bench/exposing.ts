/** The enlarger's timer as the clock on the wall has it, however often it is looked at. */

export interface Step {
  seconds: number;
}

/** An exposure that runs: when it began, with how many seconds done, and how fast it runs. */
export interface Run {
  /** ms of `performance.now()` */
  began: number;
  done: number;
  speed: number;
}

/** Seconds done at a moment: no further than the end of the step it began in, where the lamp goes
 * out; the next one is started by hand. */
export function doneAt(run: Run, now: number, steps: Step[]): { done: number; out: boolean } {
  const ends = endsOf(steps);
  const end = ends.find((at) => at > run.done + 1e-9) ?? ends.at(-1) ?? 0;
  const done = run.done + (Math.max(0, now - run.began) / 1000) * run.speed;
  return done >= end ? { done: end, out: true } : { done, out: false };
}

/** Seconds after which each step ends. */
export function endsOf(steps: Step[]): number[] {
  let end = 0;
  return steps.map((step) => {
    end += step.seconds;
    return end;
  });
}
