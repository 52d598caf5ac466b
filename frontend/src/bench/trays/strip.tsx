import type { TestStrip } from "../../api/client";
import { ASKED } from "../../api/recipe.generated";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore } from "../../state/bench";
import { Heading } from "./parts";

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
  { value: "2s", text: "2 s" },
] as const;

/** Laying a test strip, over times or grades. */
export function StripControls({ home }: { home: TestStrip }) {
  const store = useBenchStore();
  const { strip, laid } = useBench(({ shown, header }) => ({
    strip: shown.kind === "strip" && shown.strip.over === home.over ? shown.strip : null,
    laid: header?.strip ?? null,
  }));
  const onStrip = (next: TestStrip | null) =>
    store.setState({ shown: next ? { kind: "strip", strip: next } : { kind: "print" } });
  const step = strip && (strip.by === "seconds" ? "2s" : String(strip.step));
  const name = home.over === "time" ? "test strip" : "contrast strip";
  return (
    <>
      <Heading>{home.over === "time" ? "Test strip" : "Contrast strip"}</Heading>
      <div className="flex items-center gap-3">
        <Button pressed={strip !== null} onClick={() => onStrip(strip ? null : home)}>
          {strip ? "Put it away" : `Lay a ${name}`}
        </Button>
        {strip && laid && (
          <button
            type="button"
            onClick={() => onStrip({ ...strip, lie: laid.lie === "upright" ? "level" : "upright" })}
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
                    next === "2s"
                      ? { ...strip, by: "seconds", step: 2 }
                      : { ...strip, by: "stops", step: Number(next) },
                  )
                }
                options={STEPS}
              />
            </div>
          )}
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
          <div className="mt-1 mb-1">
            <Segments
              label="What is printed"
              value={strip.patch ? "patch" : "across"}
              onChange={(kind) =>
                onStrip({ ...strip, patch: kind === "patch" ? [0.5, 0.5] : null })
              }
              options={[
                { value: "across", text: "Across the picture" },
                { value: "patch", text: "One patch" },
              ]}
            />
          </div>
          {strip.patch && (
            <div className="grid grid-cols-2 gap-x-3">
              {[0, 1].map((axis) => (
                <label key={axis} className="flex items-center gap-2 text-note text-soft">
                  {axis ? "down" : "across"}
                  <input
                    type="range"
                    min={0}
                    max={1}
                    step={0.01}
                    aria-label={`Patch ${axis ? "down" : "across"}`}
                    value={strip.patch?.[axis] ?? 0.5}
                    onChange={(event) => {
                      const [x, y] = strip.patch ?? [0.5, 0.5];
                      const to = Number(event.target.value);
                      onStrip({ ...strip, patch: axis ? [x, to] : [to, y] });
                    }}
                    className="w-full accent-amber"
                  />
                </label>
              ))}
            </div>
          )}
          <p className="text-note text-soft">
            Press a strip to take its {home.over === "time" ? "time" : "grade"}; drag from one to
            another for what lies between.
          </p>
        </>
      )}
    </>
  );
}
