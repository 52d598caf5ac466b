import type { TestStrip } from "../../api/client";
import { ASKED } from "../../api/recipe.generated";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore } from "../../state/bench";
import { seconds } from "../../wording/format";
import { Heading, LOG2 } from "./parts";

export const STRIP: TestStrip = {
  over: "time",
  count: 7,
  by: "stops",
  step: 0.5,
  patch: null,
  lie: null,
};
export const CONTRAST_STRIP: TestStrip = { ...STRIP, over: "grade", count: 7 };
const STEPS = [
  { value: "1", text: "1 stop" },
  { value: "0.5", text: "½" },
  { value: "0.3333", text: "⅓" },
  { value: "0.1667", text: "⅙" },
  { value: "seconds", text: "in s" },
] as const;
const SECONDS = 2;

/** Laying a test strip, over times or grades. */
export function StripControls({ home }: { home: TestStrip }) {
  const store = useBenchStore();
  const { strip, choosing, laid, grades } = useBench(({ shown, header, tool, shelf, recipe }) => ({
    strip: shown.kind === "strip" && shown.strip.over === home.over ? shown.strip : null,
    choosing: tool.kind === "patch" && tool.strip.over === home.over ? tool.strip : null,
    laid: header?.strip ?? null,
    grades: shelf.papers.find((p) => p.id === recipe.paper.paper)?.grades ?? [],
  }));
  const onStrip = (next: TestStrip | null) => {
    store.getState().leave();
    store.setState({ shown: next ? { kind: "strip", strip: next } : { kind: "print" } });
  };
  const choose = (from: TestStrip) => {
    store.getState().leave();
    store.setState({ shown: { kind: "print" }, tool: { kind: "patch", strip: from } });
  };
  const step = strip && (strip.by === "seconds" ? "seconds" : String(strip.step));
  const counted = home.over === "time" || !grades.length;
  const name = home.over === "time" ? "test strip" : "contrast strip";
  return (
    <>
      <Heading>{home.over === "time" ? "Test strip" : "Contrast strip"}</Heading>
      <div
        className="flex items-center gap-3"
        data-control={home.over === "time" ? "enlarger.strip" : "paper.strip"}
      >
        <Button
          pressed={strip !== null || choosing !== null}
          onClick={() => onStrip(strip || choosing ? null : home)}
        >
          {strip || choosing ? "Put it away" : `Lay a ${name}`}
        </Button>
        {strip && laid && !strip.patch && (
          <button
            type="button"
            onClick={() => onStrip({ ...strip, lie: laid.rows === 1 ? "level" : "upright" })}
            className="text-note text-soft hover:text-ink"
          >
            Turn it
          </button>
        )}
      </div>
      {strip && (
        <>
          {home.over === "time" && (
            <div className="mt-2">
              <Segments
                label="Step between strips"
                value={step as (typeof STEPS)[number]["value"] | null}
                onChange={(next) =>
                  onStrip(
                    next === "seconds"
                      ? { ...strip, by: "seconds", step: SECONDS }
                      : { ...strip, by: "stops", step: Number(next) },
                  )
                }
                options={STEPS}
              />
            </div>
          )}
          {home.over === "time" && strip.by === "seconds" && (
            <Slider
              label="Seconds"
              value={strip.step ?? SECONDS}
              min={ASKED.step.minimum}
              max={ASKED.step.maximum}
              step={1 / 6}
              home={SECONDS}
              scale={LOG2}
              unit="s"
              show={seconds}
              onPreview={(to) => onStrip({ ...strip, step: Number(to.toFixed(2)) })}
              onCommit={(to) => onStrip({ ...strip, step: Number(to.toFixed(2)) })}
            />
          )}
          {counted && (
            <Slider
              label="Strips"
              value={strip.count ?? home.count ?? ASKED.strips.default}
              min={ASKED.strips.minimum}
              max={ASKED.strips.maximum}
              step={1}
              home={home.count ?? ASKED.strips.default}
              onPreview={(count) => onStrip({ ...strip, count: Math.round(count) })}
              onCommit={(count) => onStrip({ ...strip, count: Math.round(count) })}
            />
          )}
          <div className="mt-1 mb-1">
            <Segments
              label="What is printed"
              value={strip.patch ? "patch" : "across"}
              onChange={(kind) =>
                kind === "patch" ? choose(strip) : onStrip({ ...strip, patch: null })
              }
              options={[
                { value: "across", text: "Across the picture" },
                { value: "patch", text: "One patch" },
              ]}
            />
          </div>
          {strip.patch && (
            <div className="mb-1">
              <Button onClick={() => choose(strip)}>Another patch…</Button>
            </div>
          )}
          <p className="text-note text-soft">
            Press a strip to take its {home.over === "time" ? "time" : "grade"}; drag from one to
            another for what lies between.
          </p>
        </>
      )}
      {choosing && (
        <p role="status" className="mt-2 text-note text-soft">
          Click what matters most in the picture: a face, a sky. It is printed at every{" "}
          {home.over === "time" ? "time" : "grade"}, side by side.
        </p>
      )}
    </>
  );
}
