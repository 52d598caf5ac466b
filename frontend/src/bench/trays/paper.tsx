import { useState } from "react";
import { api, type Shelf } from "../../api/client";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { useBenchStore, useTray } from "../../state/bench";
import { gradeName, ROMAN, readGrade, seconds, share, signed } from "../../wording/format";
import { readNumber } from "../../wording/numbers";
import { PaperPlot } from "../plots/paper";
import { named, type Station } from "../station";
import { PartChoice } from "./PartChoice";
import { PrintCurve } from "./PrintCurve";
import { Heading, StationSlider, StepSliders } from "./parts";
import { CONTRAST_STRIP, StripControls } from "./strip";

/** Share of bare paper that is allowed: lost highlights hurt more than lost shadows. */
const LEAST_WHITE = 0.0001;

/** The Paper station. */
function PaperControls() {
  const tray = useTray();
  const part = tray.parts.paper;
  return (
    <>
      <PartChoice station="paper" />
      {part === "paper" && <PaperAndGrade />}
      {part === "points" && <PointsAndCurve />}
      {part === "values" && <Values />}
    </>
  );
}

function PaperAndGrade() {
  const tray = useTray();
  const { recipe, shelf, facts, change } = tray;
  const paper = shelf.papers.find((p) => p.id === recipe.paper.paper);
  if (!paper) return null;
  const variable = paper.kind === "variable contrast";
  const split = variable && recipe.paper.split;
  return (
    <>
      <ul
        aria-label="Papers"
        data-control="paper.paper"
        data-fills
        className="flex h-[118px] max-h-max shrink-0 grow flex-col gap-1 overflow-y-auto"
      >
        {shelf.papers.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              aria-pressed={p === paper}
              title={p.about}
              onClick={() => change("paper", { paper: p.id }, p.name)}
              className={`flex w-full items-center gap-2 rounded-[3px] border bg-well px-2 py-0.5 text-left ${
                p === paper ? "border-amber" : "border-transparent hover:bg-raise"
              }`}
            >
              <Swatch paper={p} />
              <span className="truncate text-[12.5px]">{p.name}</span>
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-1.5 text-note text-soft">{paper.about}</p>
      <p className="mb-1 text-note text-soft">
        {paper.surface}, {paper.support}; black{" "}
        {(paper.base_density + paper.net_density).toFixed(2)} D, ISO P{paper.speed}
      </p>
      {variable ? (
        <>
          <div className="mb-1 grid grid-cols-[92px_1fr] items-center gap-2">
            <span className="text-[12.5px] text-soft">Exposure</span>
            <Segments
              label="Exposure"
              control="paper.split"
              value={split ? "split" : "single"}
              onChange={(kind) => {
                if (kind === "split" && facts) {
                  // the same grade and time, parted in two
                  const hard = (facts.time * (recipe.paper.grade + 1)) / 6;
                  change("enlarger", {
                    soft_time: Number((facts.time - hard).toFixed(2)),
                    hard_time: Number(hard.toFixed(2)),
                  });
                  change("paper", { split: true }, "Split grade");
                } else if (facts) {
                  change("enlarger", { time: Number(facts.time.toFixed(2)) });
                  change(
                    "paper",
                    { split: false, grade: Number(facts.grade.toFixed(2)) },
                    "One grade",
                  );
                }
              }}
              options={[
                { value: "single", text: "One grade" },
                { value: "split", text: "Split grade" },
              ]}
            />
          </div>
          {split ? (
            <p className="text-note text-soft">
              Two exposures at the Enlarger, through 00 and through 5, add up to grade{" "}
              <b className="font-medium text-ink">{facts ? gradeName(facts.grade) : "…"}</b>.
            </p>
          ) : (
            <StationSlider
              station="paper"
              field="grade"
              show={gradeName}
              read={readGrade}
              label={(v) => `Grade ${gradeName(v)}`}
            />
          )}
        </>
      ) : (
        <div className="grid grid-cols-[92px_1fr] items-center gap-2">
          <span className="text-[12.5px] text-soft">Grade</span>
          <Segments
            label="Grade"
            control="paper.grade"
            value={facts ? String(facts.grade) : null}
            onChange={(grade) =>
              change("paper", { grade: Number(grade) }, `Grade ${gradeName(Number(grade))}`)
            }
            options={paper.grades.map((g) => ({ value: String(g), text: gradeName(g) }))}
          />
        </div>
      )}
      {!split && <StripControls home={CONTRAST_STRIP} />}
    </>
  );
}

function Swatch({ paper }: { paper: Shelf["papers"][number] }) {
  return (
    <span
      className="size-4 shrink-0 rounded-[2px] border border-black"
      style={{ background: paper.tint }}
    />
  );
}

function PointsAndCurve() {
  const tray = useTray();
  const { recipe, frame, reading, change } = tray;
  const store = useBenchStore();
  const onClipped = (on: boolean) => store.setState({ peek: on ? "clipped" : null });
  const [asking, setAsking] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const [shorter, setShorter] = useState<{ seconds: number; black: number } | null>(null);
  const percent = (v: number) => (v * 100).toFixed(1);
  const find = async (black: number, white: number, label: string, under = recipe) => {
    setAsking(true);
    try {
      const { seconds: less, ...points } = await api.printPoints(frame.id, under, black, white);
      change("paper", points, label);
      const full = reading?.paper_black ?? 0;
      setShorter(less == null ? null : { seconds: less, black });
      setSaid(
        less == null
          ? null
          : `${share(full)} is full black already, by time and grade: print shorter or softer for less.`,
      );
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    } finally {
      setAsking(false);
    }
  };
  const printShorter = async () => {
    const { facts } = tray;
    if (!shorter || !facts) return;
    const part = shorter.seconds / facts.time;
    const { soft_time, hard_time } = recipe.enlarger;
    const scaled = (value: number) => Number((value * part).toFixed(2));
    const times = facts.split
      ? { soft_time: scaled(soft_time), hard_time: scaled(hard_time) }
      : { time: shorter.seconds };
    change("enlarger", times);
    // the points that were found are those of the longer time
    const enlarger = { ...recipe.enlarger, ...times };
    await find(
      shorter.black,
      LEAST_WHITE,
      `${seconds(shorter.seconds)} s for ${share(shorter.black)} black`,
      { ...recipe, enlarger },
    );
  };
  const point = (field: "black_at" | "white_at", label: string) => (
    // what is clipped is shown while the slider is held
    <div onPointerDown={() => onClipped(true)} onPointerUp={() => onClipped(false)}>
      <StationSlider
        station="paper"
        field={field}
        show={percent}
        read={(text) => (readNumber(text, "%") ?? Number.NaN) / 100}
        label={(v) => `${label} ${percent(v)} %`}
      />
    </div>
  );
  return (
    <>
      {point("black_at", "Black point")}
      {point("white_at", "White point")}
      <div className="mt-1 flex gap-1.5">
        <Button
          disabled={asking}
          title="0.1 % of the picture may reach full black, 0.01 % bare paper"
          onClick={() => find(0.001, LEAST_WHITE, "Points found")}
        >
          Find both
        </Button>
        <Button
          disabled={asking}
          title="Two per cent of full black make a strong print"
          onClick={() => find(0.02, LEAST_WHITE, "2 % black")}
        >
          2 % black
        </Button>
      </div>
      {said && (
        <p role="status" className="mt-1.5 text-note text-amber">
          {said}
        </p>
      )}
      {shorter && (
        <div className="mt-1">
          <Button onClick={printShorter}>
            Print {seconds(shorter.seconds)} s for {share(shorter.black)}
          </Button>
        </div>
      )}
      {reading && (
        <p className="mt-1.5 text-note text-soft">
          Full black <b className="font-medium text-ink">{share(reading.paper_black)}</b>, bare
          paper <b className="font-medium text-ink">{share(reading.paper_white)}</b> of the picture.
        </p>
      )}
      <Heading>Ends of the scale</Heading>
      {(["hold_highlights", "hold_shadows"] as const).map((field) => (
        <StationSlider
          key={field}
          station="paper"
          field={field}
          show={(v) => v.toFixed(2)}
          label={(v) => `Print: hold ${field.slice(5)} ${v.toFixed(2)}`}
        />
      ))}
      <Heading aside="print values">Print curve</Heading>
      <div data-control="paper.curve">
        <PrintCurve
          points={recipe.paper.curve}
          values={tray.facts?.values ?? null}
          change={change}
        />
      </div>
      <StationSlider
        station="paper"
        field="mid_point"
        show={(v) => signed(v, 2)}
        label={(v) => `Mid point ${signed(v, 2)}`}
      />
    </>
  );
}

function Values() {
  const { recipe } = useTray();
  return (
    <>
      <p className="mb-2 text-note text-soft">
        Lifts or lowers each value of the print. The handles stand over the zone staff.
      </p>
      <StepSliders
        station="paper"
        field="value_lift"
        values={recipe.paper.value_lift}
        names={ROMAN}
        what="Value"
        show={(v) => signed(v, 2)}
        label={(name, v) => `Value ${name} lifted ${signed(v)}`}
      />
    </>
  );
}

export const station: Station = {
  title: "Paper",
  about: "Exposure becomes a picture.",
  plot: PaperPlot,
  says: (recipe, shelf, facts) =>
    `${named(shelf.papers, recipe.paper.paper)} · ${facts?.split ? `split ${gradeName(facts?.grade ?? 2)}` : `grade ${gradeName(facts?.grade ?? recipe.paper.grade)}`}`,
  below: (parts) => (parts.paper === "paper" ? PaperPlot : null),
  Controls: PaperControls,
  ring: ["paper.grade", "enlarger.time"],
};
