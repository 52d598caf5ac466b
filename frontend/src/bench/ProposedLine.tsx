import { fieldOf, type StationName } from "../api/client";
import { useBench, useBenchStore } from "../state/bench";
import { PROPOSED, usePropose } from "./proposal";
import { usePair } from "./ring/Apart";
import { Strength } from "./start/Strength";

/** Makes the print plain again. */
function usePlain() {
  const store = useBenchStore();
  return () => {
    const { schema, change } = store.getState();
    const home = (station: StationName, field: string) =>
      Number(fieldOf(schema, station, field).default);
    change("capture", { camera_curve: home("capture", "camera_curve") });
    change("film", { placement: home("film", "placement") });
    change("development", { n: home("development", "n") });
    change("enlarger", { time: null });
    change(
      "paper",
      {
        grade: home("paper", "grade"),
        split: false,
        black_at: home("paper", "black_at"),
        white_at: home("paper", "white_at"),
      },
      "Plain: N on grade 2",
    );
  };
}

/** What was proposed for the print and why, as long as it stands; what is proposed now, and plain. */
export function ProposedLine() {
  const label = useBench((bench) => bench.print.label);
  const store = useBenchStore();
  const pair = usePair();
  const { propose, busy } = usePropose();
  const plain = usePlain();
  const mixed = useBench((bench) => bench.recipe.mixture !== null);
  const says = label.startsWith(PROPOSED) ? label.slice(PROPOSED.length) : null;
  return (
    <section
      aria-label="Proposed print"
      className="flex h-7 items-center gap-3 border-line border-b px-3.5 text-small text-soft"
    >
      {says && (
        <p role="status" className="min-w-0 truncate" title={says}>
          Proposed: <b className="font-medium text-ink">{says}</b>
        </p>
      )}
      <button
        type="button"
        disabled={busy}
        title="Meters the picture as it is set now: places the shadow, develops and times for the highlight, takes the grade that the shadow asks for"
        onClick={() => propose()}
        className="whitespace-nowrap text-faint hover:text-ink disabled:opacity-50"
      >
        {busy ? "Metering…" : says ? "Propose again" : "Propose a print"}
      </button>
      <button
        type="button"
        title="No placement, normal development, standard time, grade 2"
        onClick={plain}
        className="whitespace-nowrap text-faint hover:text-ink"
      >
        Plain
      </button>
      <button
        type="button"
        title="Small prints of this picture under twenty-four looks, each beside what is proposed for it"
        onClick={() => store.setState({ along: "starting" })}
        className="whitespace-nowrap text-faint hover:text-ink"
      >
        Starting prints<kbd className="ml-1.5 font-sans">L</kbd>
      </button>
      <button
        type="button"
        title="Settings that you kept, and those of other prints"
        onClick={() => store.setState({ dialog: "recipes" })}
        className="whitespace-nowrap text-faint hover:text-ink"
      >
        Recipes…
      </button>
      <button
        type="button"
        title="Give a black and white picture of your own: this frame is printed to its tones"
        onClick={() => store.setState({ dialog: "match" })}
        className="whitespace-nowrap text-faint hover:text-ink"
      >
        Match…
      </button>
      {pair && (
        <button
          type="button"
          title="Which films behind which filters part these two metered spots most"
          onClick={() => store.setState({ dialog: "apart" })}
          className="whitespace-nowrap text-faint hover:text-ink"
        >
          Keep {pair[0]} and {pair[1]} apart…
        </button>
      )}
      {mixed && (
        <div className="ml-auto w-72 shrink-0">
          <Strength />
        </div>
      )}
      <button
        type="button"
        title="Type a word and go to the control"
        onClick={() => store.setState({ dialog: "find" })}
        className={`whitespace-nowrap text-faint hover:text-ink ${mixed ? "" : "ml-auto"}`}
      >
        Find<kbd className="ml-1.5 font-sans">/</kbd>
      </button>
      <button
        type="button"
        title="All keys on one sheet"
        onClick={() => store.setState({ dialog: "keys" })}
        className="whitespace-nowrap text-faint hover:text-ink"
      >
        Keys<kbd className="ml-1.5 font-sans">?</kbd>
      </button>
    </section>
  );
}
