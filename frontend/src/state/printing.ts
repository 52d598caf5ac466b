/** A print being worked on: shown at once, kept in order, undone without limit. What the server
 * refuses is said and given up; what it cannot hear is kept till it does. */

import { api, type Print, Problem, type Recipe, type StationName } from "../api/client";
import { SILENT } from "../api/http";
import { withFields } from "../api/recipe";

/** Changes of one setting that follow each other faster than this (held keys) are kept as one. */
const SETTLED_MS = 300;
const RETRY_MS = 1500;

export type Change = <S extends StationName>(
  station: S,
  values: Partial<Recipe[S]>,
  /** What was done, for undo; without it the change is only shown, not kept. */
  label?: string,
) => void;

interface Kept {
  print: Print;
  recipe: Recipe;
}

interface Host {
  get: () => Kept;
  set: (values: Partial<Kept>) => void;
  tell: (error: unknown) => void;
}

interface Pending {
  kind: string;
  label: string;
  recipe: Recipe;
  timer: number;
}

export class Printing {
  private pending: Pending | null = null;
  private queue: Promise<void> = Promise.resolve();
  /** Rises whenever what was done and not kept is given up. */
  private given = 0;
  private retry = 0;
  private closed = false;
  private readonly host: Host;

  constructor(host: Host) {
    this.host = host;
  }

  change: Change = (station, values, label) => {
    const recipe = withFields(this.host.get().recipe, station, values);
    this.put(recipe, `${station} ${Object.keys(values)}`, label);
  };

  /** Another recipe for the print: of one kind of change, what follows fast is kept as one. */
  put = (recipe: Recipe, kind: string, label?: string) => {
    this.host.set({ recipe });
    if (label === undefined) return;
    if (this.pending?.kind !== kind) this.flush();
    window.clearTimeout(this.pending?.timer);
    this.pending = {
      kind,
      label,
      recipe,
      timer: window.setTimeout(() => this.flush(), SETTLED_MS),
    };
  };

  undo = () => this.step((head) => api.undo(this.id, head));
  redo = () => this.step((head) => api.redo(this.id, head));

  /** Resolves when all that was done so far is kept. */
  kept = (): Promise<void> => {
    this.flush();
    return this.queue;
  };

  flush = () => {
    const last = this.pending;
    if (!last) return;
    window.clearTimeout(last.timer);
    this.pending = null;
    this.enqueue(
      () => api.change(this.id, this.host.get().print.head, last.label, last.recipe),
      (print) => this.host.set({ print }),
      `“${last.label}” was not kept. `,
    );
  };

  /** A state that cannot be shown: what was only shown is given up. */
  refused = (problem: Problem) => {
    this.host.tell(problem);
    if (problem.status === 422) this.giveUp();
  };

  close() {
    this.flush();
    this.closed = true;
    window.clearTimeout(this.retry);
  }

  private get id() {
    return this.host.get().print.id;
  }

  /** To any state the print had. */
  go = (state: number) => this.step((head) => api.go(this.id, head, state));

  /** As it is kept, where something else changed it. */
  reload = () => this.step(() => api.print(this.id));

  private step(way: (head: number) => Promise<Print>) {
    this.flush();
    this.enqueue(
      () => way(this.host.get().print.head),
      (print) => this.host.set({ print, recipe: print.recipe }),
      "",
    );
  }

  private enqueue(work: () => Promise<Print>, done: (print: Print) => void, lost: string) {
    const turn = this.given;
    this.queue = this.queue.then(async () => {
      while (turn === this.given) {
        try {
          done(await work());
          return;
        } catch (error) {
          if (error === SILENT && !this.closed) {
            this.host.tell(error);
            await new Promise((resolve) => {
              this.retry = window.setTimeout(resolve, RETRY_MS);
            });
          } else {
            await this.fallBack(error, lost);
          }
        }
      }
    });
  }

  /** Back to what is kept, and why. */
  private async fallBack(error: unknown, lost: string) {
    const problem =
      error instanceof Problem
        ? new Problem(error.title, lost + error.message, error.status)
        : error;
    this.host.tell(problem);
    this.given += 1;
    window.clearTimeout(this.pending?.timer);
    this.pending = null;
    try {
      const print = await api.print(this.id);
      this.host.set({ print, recipe: print.recipe });
    } catch (again) {
      this.host.tell(again);
      this.giveUp();
    }
  }

  private giveUp() {
    this.given += 1;
    window.clearTimeout(this.pending?.timer);
    this.pending = null;
    this.host.set({ recipe: this.host.get().print.recipe });
  }
}
