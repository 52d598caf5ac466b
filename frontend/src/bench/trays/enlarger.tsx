import { useState } from "react";
import { fieldOf, type Recipe, within } from "../../api/client";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { type Bench, useBenchStore, useTray } from "../../state/bench";
import { sized } from "../../state/mapping";
import { gradeName, seconds, signed } from "../../wording/format";
import { passesOf, type Way } from "../map/passes";
import { SequenceBar } from "../map/SequenceBar";
import { EnlargerCard, EnlargerPlot } from "../plots/enlarger";
import type { Station } from "../station";
import { PrintingMap } from "./map";
import { PartChoice } from "./PartChoice";
import { LOG2, StationSlider } from "./parts";
import { STRIP, StripControls } from "./strip";

const PARTS = [
  { value: "1", text: "1" },
  { value: "0.5", text: "½" },
  { value: "0.3333", text: "⅓" },
  { value: "0.1667", text: "⅙" },
] as const;

/** The Enlarger station. */
function EnlargerControls() {
  const tray = useTray();
  const passes = passesOf(tray.recipe);
  return (
    <>
      <PartChoice station="enlarger" notes={{ map: passes.length ? ` · ${passes.length}` : "" }} />
      {tray.parts.enlarger === "map" ? <PrintingMap /> : <Exposure />}
    </>
  );
}

function Exposure() {
  const tray = useTray();
  const { recipe, facts, schema, change } = tray;
  const store = useBenchStore();
  const [part, setPart] = useState<(typeof PARTS)[number]["value"]>("0.3333");
  if (!facts) return null;
  const { enlarger } = recipe;
  const { split } = facts;
  const range = fieldOf(schema, "enlarger", "time");
  const standard = facts.standard_time;
  const time = split ? facts.time : (enlarger.time ?? standard);
  const off = Math.log2(time / standard);
  const own = (value: number) =>
    Math.abs(Math.log2(value / standard)) < 0.01 ? null : Number(value.toFixed(2));
  const say = (value: number) =>
    own(value) ? `Base exposure ${seconds(value)} s` : "Standard time";
  const step = (way: 1 | -1) => {
    const factor = 2 ** (way * Number(part));
    const text = PARTS.find((p) => p.value === part)?.text;
    const label = `${text} stop ${way < 0 ? "less" : "more"}`;
    if (split) {
      const { soft_time, hard_time } = enlarger;
      const most = fieldOf(schema, "enlarger", "soft_time").maximum;
      // of two exposures neither ends before the other, or the grade would change
      const share = Math.min(factor, most / Math.max(soft_time, hard_time));
      const [soft, hard] =
        soft_time + hard_time > 0
          ? [soft_time * share, hard_time * share]
          : [standard / 2, standard / 2]; // nothing has no more of it
      const both = { soft_time: Number(soft.toFixed(2)), hard_time: Number(hard.toFixed(2)) };
      if (share !== 1) change("enlarger", both, label);
      return;
    }
    const next = within(Number((time * factor).toFixed(2)), range);
    // at the end of what there is more is not less
    if ((next - time) * way > 0) change("enlarger", { time: own(next) }, label);
  };
  return (
    <>
      <div className="mb-2 grid grid-cols-[92px_1fr] items-center gap-2">
        <span className="text-[12.5px] text-soft">Head</span>
        <Segments
          label="Head"
          control="enlarger.head"
          value={enlarger.head}
          onChange={(head) =>
            change("enlarger", { head }, `${head === "diffuse" ? "Diffuse" : "Condenser"} head`)
          }
          options={[
            { value: "diffuse", text: "Diffuse" },
            { value: "condenser", text: "Condenser" },
          ]}
        />
      </div>
      {split ? (
        <>
          {(["soft_time", "hard_time"] as const).map((field) => (
            <StationSlider
              key={field}
              station="enlarger"
              field={field}
              show={seconds}
              label={(v) => `${seconds(v)} s through ${field === "soft_time" ? "00" : "5"}`}
            />
          ))}
          <p className="text-note text-soft">
            Together {seconds(facts.time)} s, as grade{" "}
            <b className="font-medium text-ink">{gradeName(facts.grade)}</b>.
          </p>
        </>
      ) : (
        <StationSlider
          station="enlarger"
          field="time"
          keep={own}
          min={within(standard / 16, range)}
          max={within(standard * 16, range)}
          step={1 / 12}
          home={standard}
          scale={LOG2}
          show={seconds}
          label={say}
        />
      )}
      <div className="mt-1 flex items-center gap-1.5">
        <Button onClick={() => step(-1)} aria-label="Less exposure">
          −
        </Button>
        <div className="flex-1">
          <Segments label="Step in stops" value={part} onChange={setPart} options={PARTS} />
        </div>
        <Button onClick={() => step(1)} aria-label="More exposure">
          +
        </Button>
      </div>
      <p className="mt-2 text-note text-soft">
        Standard printing time <b className="font-medium text-ink">{seconds(standard)} s</b>: Zone V
        prints as middle grey, 0.75 above the paper base.
        {Math.abs(off) > 0.02 && ` This is ${signed(off)} stops from it.`}
      </p>
      <div className="mt-2 flex gap-1.5">
        {(split || enlarger.time != null) && (
          <Button
            onClick={() => {
              if (!split) return change("enlarger", { time: null }, "Standard time");
              const share = standard / facts.time;
              const to = (value: number) => Number((value * share).toFixed(2));
              const { soft_time, hard_time } = enlarger;
              change(
                "enlarger",
                { soft_time: to(soft_time), hard_time: to(hard_time) },
                "Standard time",
              );
            }}
          >
            Take the standard time
          </Button>
        )}
        <Button
          title="Watch the print come as the lamp burns"
          onClick={() => store.setState({ shown: { kind: "timed", exposed: 0 } })}
        >
          Timer…
        </Button>
      </div>
      <StripControls home={STRIP} />
    </>
  );
}

const passesSaid = (recipe: Recipe) => {
  const { length } = passesOf(recipe);
  return length ? ` · ${length} ${length > 1 ? "passes" : "pass"}` : "";
};

export const station: Station = {
  title: "Enlarger",
  about: "The negative is projected on the paper.",
  plot: EnlargerCard,
  says: (recipe, _, facts) =>
    facts
      ? `${seconds(facts.time)} s · ${facts.split ? "in two" : recipe.enlarger.time ? "set by hand" : "standard time"}${recipe.enlarger.head === "condenser" ? " · condenser" : ""}${passesSaid(recipe)}`
      : "",
  below: (parts) => (parts.enlarger === "exposure" ? EnlargerPlot : SequenceBar),
  Controls: EnlargerControls,
  ring: ["enlarger.time", "paper.grade"],
  keys: {
    d: (bench) => takeStrokes(bench, "dodge"),
    b: (bench) => takeStrokes(bench, "burn"),
    ",": (bench) => size(bench, -1),
    ".": (bench) => size(bench, 1),
    "<": (bench) => step(bench, -1),
    ">": (bench) => step(bench, 1),
    ";": (bench) => step(bench, -1),
    ":": (bench) => step(bench, 1),
  },
};

/** Dodging or burning by strokes in hand, or put away when it is. */
function takeStrokes({ tool, mapping, openStation, openPart, take, set }: Bench, way: Way) {
  const off = tool.kind === "strokes" && mapping.way === way;
  openStation("enlarger");
  openPart({ enlarger: "map" });
  set({ mapping: { ...mapping, way } });
  take(off ? { kind: "look" } : { kind: "strokes" });
}

/** The size of what is in hand. */
function size({ tool, mapping, frame, set }: Bench, way: 1 | -1) {
  const side = Math.max(frame.width, frame.height);
  if (tool.kind === "hold") set({ mapping: { ...mapping, held: sized(mapping.held, way, side) } });
  else if (tool.kind === "strokes" || (tool.kind === "shape" && tool.shape === "brush"))
    set({ mapping: { ...mapping, radius: sized(mapping.radius, way, side) } });
}

/** What a stroke adds. */
function step({ tool, mapping, set }: Bench, way: 1 | -1) {
  if (tool.kind !== "strokes") return;
  const next = Math.round(24 * mapping.step + way) / 24;
  set({ mapping: { ...mapping, step: Math.min(Math.max(next, 1 / 24), 1) } });
}
