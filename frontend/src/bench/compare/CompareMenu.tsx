import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import { Button } from "../../parts/Button";
import { Menu } from "../../parts/Menu";
import { type Compared, type Comparing, useBench, useBenchStore } from "../../state/bench";
import { nameOf, PLAIN, same } from "./useCompared";

const COLOUR: Compared = { kind: "colour" };
const WAYS: { way: Comparing | null; text: string }[] = [
  { way: "wipe", text: "Wipe" },
  { way: "side", text: "Side by side" },
  { way: "four", text: "Two by two" },
  { way: null, text: "Not now" },
];

/** All that the print can be compared with: the capture, the plain print, its proofs, and the other
 * prints of the frame. */
export function useComparable(wanted = true): Compared[] {
  const { frame, print } = useBench(({ frame, print }) => ({ frame: frame.id, print: print.id }));
  const states = useQuery({
    queryKey: ["history", print],
    queryFn: () => api.history(print),
    enabled: wanted,
  });
  const prints = useQuery({
    queryKey: ["prints", frame],
    queryFn: () => api.printsOf(frame),
    enabled: wanted,
  });
  const proofs = (states.data ?? []).flatMap(({ id, proof }): Compared[] =>
    proof ? [{ kind: "state", print, state: id, name: proof }] : [],
  );
  const others = (prints.data ?? []).flatMap(({ id, name, head, binned }): Compared[] =>
    binned || id === print ? [] : [{ kind: "state", print: id, state: head, name }],
  );
  return [COLOUR, PLAIN, ...proofs.reverse(), ...others];
}

/** With what the print is compared, and how. */
export function CompareMenu() {
  const store = useBenchStore();
  const { other, comparing } = useBench(({ other, comparing }) => ({ other, comparing }));
  const [open, setOpen] = useState(false);
  const all = useComparable(open);
  const way = WAYS.find((each) => each.way === comparing)?.text.toLowerCase();
  const choose = (to: Compared) => {
    // a way is taken with the first choice; it stays while others are chosen
    store.setState({ other: to, comparing: comparing ?? "wipe" });
  };
  const row = (on: boolean) =>
    `block w-full truncate rounded-[3px] px-2 py-1 text-left ${on ? "bg-lift text-amber" : "hover:bg-raise"}`;
  return (
    <Menu
      label="Compare"
      open={open}
      onOpen={setOpen}
      align="end"
      className="w-64"
      opens={
        <Button
          hint="W"
          pressed={comparing !== null}
          title="The print beside another one: behind a line (W), side by side; hold K to see the other one alone"
        >
          {comparing ? `Compare: ${way}` : "Compare"}
        </Button>
      }
    >
      <p className="px-2 pb-1 text-small text-faint">With (hold K to see it)</p>
      <div className="max-h-72 overflow-y-auto">
        {all.map((each) => (
          <button
            key={each.kind === "state" ? each.state : each.kind}
            type="button"
            aria-pressed={same(each, other)}
            onClick={() => choose(each)}
            className={row(same(each, other))}
          >
            {each.kind === "colour" ? "capture in colour" : nameOf(each)}
            {each.kind === "state" && each.print === store.getState().print.id && (
              <span className="text-faint"> · proof</span>
            )}
          </button>
        ))}
      </div>
      <p className="mt-1 border-t border-line px-2 pt-2 pb-1 text-small text-faint">How</p>
      {WAYS.map(({ way, text }) => (
        <button
          key={text}
          type="button"
          aria-pressed={way === comparing}
          onClick={() => {
            store.setState({ comparing: way });
            setOpen(false);
          }}
          className={row(way === comparing && way !== null)}
        >
          {text}
        </button>
      ))}
    </Menu>
  );
}
