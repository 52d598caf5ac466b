import { Link } from "wouter";
import { Button } from "../parts/Button";
import { Header } from "../parts/Header";
import { useBench, useBenchStore } from "../state/bench";
import { CompareMenu } from "./compare/CompareMenu";
import { PrintsMenu } from "./prints/PrintsMenu";

/** Where one is, and what is done to the whole print. */
export function BenchHeader() {
  const store = useBenchStore();
  const { frame, print, connected, shown, peek, tool, zoom, history, undo, redo, take } = useBench(
    ({ frame, print, connected, shown, peek, tool, zoom, history, undo, redo, take }) => ({
      frame,
      print,
      connected,
      shown: shown.kind,
      peek,
      tool: tool.kind,
      zoom,
      history,
      undo,
      redo,
      take,
    }),
  );
  const colour = (on: boolean) => store.setState({ peek: on ? "colour" : null });
  return (
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
            hint="Y"
            pressed={history}
            title="Every state of this print, and its proofs"
            onClick={() => store.setState({ history: !history, trial: null })}
          >
            History
          </Button>
          <CompareMenu />
          <Button
            hint="M"
            pressed={tool === "meter"}
            title="Click on the picture to meter a spot; drag its tag on the zone staff, or press a digit, to place it"
            onClick={() => take({ kind: tool === "meter" ? "look" : "meter" })}
          >
            Meter
          </Button>
          <Button
            hint="C"
            title="While it is held, the capture in colour"
            pressed={peek === "colour"}
            onPointerDown={() => colour(true)}
            onPointerUp={() => colour(false)}
            onPointerLeave={() => colour(false)}
          >
            Colour
          </Button>
          <Button
            title="One pixel of the capture to one of the screen (+ and −)"
            pressed={zoom === "full"}
            onClick={() => store.setState({ zoom: zoom === "full" ? "fit" : "full" })}
          >
            100 %
          </Button>
          <Button
            hint="P"
            pressed={zoom === "reading"}
            title="As large as a print of 40 cm is at reading distance: here grain is judged"
            onClick={() => store.setState({ zoom: zoom === "reading" ? "fit" : "reading" })}
          >
            40 cm
          </Button>
          <Button
            hint="V"
            pressed={shown === "proof"}
            title="As the print is seen on its paper, on a white wall"
            onClick={() =>
              store.setState({ shown: { kind: shown === "proof" ? "print" : "proof" } })
            }
          >
            Proof
          </Button>
          <Button go onClick={() => store.setState({ dialog: "deliver" })}>
            Deliver
          </Button>
        </>
      }
    >
      <nav aria-label="Where you are" className="flex min-w-0 gap-2.5 whitespace-nowrap">
        <Link
          href={`/roll/${frame.roll_id}`}
          title={frame.roll_name}
          className="min-w-6 shrink-[3] truncate hover:text-ink"
        >
          {frame.roll_name}
        </Link>
        <span aria-hidden="true">/</span>
        <b title={frame.title} className="min-w-16 truncate font-medium text-ink">
          Frame {String(frame.number).padStart(2, "0")} · {frame.title}
        </b>
        <span aria-hidden="true">/</span>
        <PrintsMenu />
      </nav>
      {!connected && (
        <span role="status" className="text-loss">
          No answer from Silvrin, trying again…
        </span>
      )}
    </Header>
  );
}
