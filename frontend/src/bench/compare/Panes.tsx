import type { ReactNode } from "react";
import { useBench } from "../../state/bench";
import { Beside } from "./Beside";
import { useComparable } from "./CompareMenu";
import { same } from "./useCompared";

/** The picture, and beside it what it is compared with, all on one view. */
export function Panes({ children }: { children: ReactNode }) {
  const { comparing, other } = useBench(({ comparing, other }) => ({ comparing, other }));
  const all = useComparable(comparing === "four");
  const others =
    comparing === "side"
      ? [other]
      : comparing === "four"
        ? [other, ...all.filter((each) => !same(each, other))].slice(0, 3)
        : [];
  return (
    <div
      className={`grid min-h-0 flex-1 gap-px bg-black ${
        others.length ? "grid-cols-2" : "grid-cols-1"
      } ${others.length > 1 ? "grid-rows-2" : "grid-rows-1"}`}
    >
      <div className="relative grid min-h-0 min-w-0">{children}</div>
      {others.map((each) => (
        <Beside key={each.kind === "state" ? each.state : each.kind} other={each} />
      ))}
      {others.length === 2 && (
        <p className="m-px flex items-center justify-center bg-surround text-note text-soft">
          Keep a state as a proof, or make another print, to see it here.
        </p>
      )}
    </div>
  );
}
