import { Slider as Radix } from "radix-ui";
import type { Pass, PassShape } from "../../api/client";
import { Button } from "../../parts/Button";
import { Slider } from "../../parts/Slider";
import { useBench } from "../../state/bench";
import { ROMAN, roman } from "../../wording/format";
import { tonesOf } from "../ZoneStaff";
import { PassSlider } from "./PassControls";
import { KINDS, nameOf, usePasses } from "./passes";

const HOWS = [
  { value: "add", text: "added" },
  { value: "take", text: "taken away" },
  { value: "keep", text: "kept" },
] as const;
const SIDES = ["left", "right", "top", "bottom"] as const;

interface AreaProps {
  pass: Pass;
  index: number;
  set: (values: Partial<Pass>, said?: string) => void;
}

/** What the area of a pass is made of, and what it is limited to. */
export function AreaControls({ pass, index, set }: AreaProps) {
  const passes = usePasses();
  const { zones, hues } = pass;
  const own = nameOf(pass, index);
  return (
    <>
      {pass.shapes.map((shape, which) => (
        <div key={which} className="mb-1 rounded-[3px] bg-[#222] px-1.5 py-1">
          <div className="flex items-center gap-1.5 text-[12.5px]">
            <span className="flex-1 truncate">
              {KINDS[shape.kind]}
              {shape.kind === "alike" && ` · ${shape.samples.length}`}
            </span>
            <select
              aria-label={`${KINDS[shape.kind]} ${which + 1} is`}
              value={shape.how}
              onChange={(event) =>
                passes.shape(
                  index,
                  which,
                  { ...shape, how: event.target.value as PassShape["how"] },
                  `${own}: ${KINDS[shape.kind]} ${event.target.value}`,
                )
              }
              className="rounded-[3px] bg-well px-1 py-px text-note text-soft"
            >
              {HOWS.map(({ value, text }) => (
                <option key={value} value={value}>
                  {text}
                </option>
              ))}
            </select>
            <button
              type="button"
              aria-label={`Remove ${KINDS[shape.kind]} ${which + 1}`}
              disabled={pass.shapes.length < 2}
              onClick={() => passes.shape(index, which, null, `${own}: ${KINDS[shape.kind]} out`)}
              className="px-1 text-soft hover:text-ink disabled:opacity-30"
            >
              ×
            </button>
          </div>
          <ShapeSliders
            shape={shape}
            set={(next, said) => passes.shape(index, which, next, said && `${own}: ${said}`)}
          />
        </div>
      ))}
      <PassSlider
        field="soften"
        value={pass.soften}
        show={(v) => v.toFixed(2)}
        onSet={(soften, said) => set({ soften }, said)}
      />
      <PassSlider
        field="held"
        value={pass.held}
        show={(v) => v.toFixed(2)}
        onSet={(held, said) => set({ held }, said)}
      />
      {zones ? (
        <>
          <ZoneRange
            ends={[zones.first, zones.last]}
            onSet={([first, last], said) => set({ zones: { ...zones, first, last } }, said)}
          />
          <PassSlider
            kind="ZoneLimit"
            field="soft"
            title="Soft ends"
            value={zones.soft}
            show={(v) => v.toFixed(1)}
            onSet={(soft, said) => set({ zones: { ...zones, soft } }, said)}
          />
        </>
      ) : null}
      {hues && (
        <>
          <PassSlider
            kind="HueLimit"
            field="hue"
            value={hues.hue}
            show={(v) => String(Math.round(v))}
            onSet={(hue, said) => set({ hues: { ...hues, hue } }, said)}
          />
          <PassSlider
            kind="HueLimit"
            field="width"
            value={hues.width}
            show={(v) => String(Math.round(v))}
            onSet={(width, said) => set({ hues: { ...hues, width } }, said)}
          />
          <PassSlider
            kind="HueLimit"
            field="soft"
            title="Soft ends"
            value={hues.soft}
            show={(v) => v.toFixed(2)}
            onSet={(soft, said) => set({ hues: { ...hues, soft } }, said)}
          />
        </>
      )}
      <div className="mt-1 flex flex-wrap gap-1.5">
        <Button
          pressed={pass.opposite}
          title="All but the area"
          onClick={() =>
            set({ opposite: !pass.opposite }, pass.opposite ? "its area" : "all but its area")
          }
        >
          Opposite
        </Button>
        <Button
          pressed={zones !== null}
          title="Only where the scene lies in a range of zones"
          onClick={() =>
            set(
              { zones: zones ? null : { first: 0, last: 4, soft: 1 } },
              zones ? "all zones" : "only some zones",
            )
          }
        >
          Only zones
        </Button>
        <Button
          pressed={hues !== null}
          title="Only where the colour lies in a range of hues"
          onClick={() =>
            set(
              { hues: hues ? null : { hue: 30, width: 60, soft: 0.5 } },
              hues ? "all hues" : "only some hues",
            )
          }
        >
          Only hues
        </Button>
      </div>
    </>
  );
}

/** A range of zones on a small staff, with both its ends to drag. */
function ZoneRange({
  ends,
  onSet,
}: {
  ends: [number, number];
  onSet: (ends: [number, number], said?: string) => void;
}) {
  const tones = useBench((bench) => tonesOf(bench.reading, "scene"));
  return (
    <div className="grid h-[27px] grid-cols-[88px_1fr] items-center gap-2">
      <span className="text-[12.5px] text-soft">
        {roman(Math.round(ends[0]))} to {roman(Math.round(ends[1]))}
      </span>
      <Radix.Root
        value={ends}
        min={0}
        max={10}
        step={0.1}
        onValueChange={([a = 0, b = 10]) => onSet([a, b])}
        onValueCommit={([a = 0, b = 10]) =>
          onSet([a, b], `zones ${a.toFixed(1)} to ${b.toFixed(1)}`)
        }
        className="relative flex h-[22px] cursor-pointer touch-none items-center select-none"
      >
        <Radix.Track className="relative flex h-3 grow overflow-hidden rounded-[2px]">
          {ROMAN.map((name, zone) => (
            <span key={name} className="flex-1" style={{ background: tones[zone] }} />
          ))}
          <Radix.Range className="absolute top-0 h-full border-y-2 border-amber" />
        </Radix.Track>
        {["Darkest zone", "Lightest zone"].map((label) => (
          <Radix.Thumb
            key={label}
            aria-label={label}
            className="block h-4.5 w-[5px] rounded-[1.5px] border border-black bg-amber"
          />
        ))}
      </Radix.Root>
    </div>
  );
}

interface ShapeProps {
  shape: PassShape;
  set: (shape: PassShape, said?: string) => void;
}

/** What of a shape is not grabbed on the picture alone. */
function ShapeSliders({ shape, set }: ShapeProps) {
  const two = (v: number) => v.toFixed(2);
  const whole = (v: number) => String(Math.round(v));
  const of = (kind: string, field: string, show = two, title?: string) => (
    <PassSlider
      key={field}
      kind={kind}
      field={field}
      title={title}
      value={(shape as unknown as Record<string, number>)[field] ?? 0}
      show={show}
      onSet={(value, said) => set({ ...shape, [field]: value }, said)}
    />
  );
  switch (shape.kind) {
    case "disc":
      return [of("Disc", "angle", whole), of("Disc", "soft")];
    case "brush":
      return of("Brush", "most");
    case "outline":
      return of("Polygon", "feather", whole);
    case "moved":
      return shape.held.kind === "disc" ? (
        <PassSlider
          kind="Disc"
          field="soft"
          value={shape.held.soft}
          show={two}
          onSet={(soft, said) => {
            if (shape.held.kind === "disc") set({ ...shape, held: { ...shape.held, soft } }, said);
          }}
        />
      ) : null;
    case "alike":
      return <Samples shape={shape} set={set} />;
    case "sides":
      return (
        <>
          {of("Sides", "width", whole)}
          {of("Sides", "feather", whole)}
          {SIDES.map((side) => (
            <Slider
              key={side}
              label={`${side[0]?.toUpperCase()}${side.slice(1)}`}
              value={Math.round(100 * shape[side])}
              min={0}
              max={100}
              step={5}
              home={100}
              unit="%"
              show={whole}
              onPreview={(v) => set({ ...shape, [side]: v / 100 })}
              onCommit={(v) => set({ ...shape, [side]: v / 100 }, `${side} ${whole(v)} %`)}
            />
          ))}
        </>
      );
    case "oval":
      return [
        of("Oval", "size", whole),
        of("Oval", "roundness"),
        of("Oval", "feather", whole),
        of("Oval", "middle"),
      ];
    case "fall-off":
      return of("FallOff", "angle", whole);
    default:
      return null;
  }
}

function Samples({
  shape,
  set,
}: {
  shape: Extract<PassShape, { kind: "alike" }>;
  set: ShapeProps["set"];
}) {
  const long = useBench(({ shape: { width, height } }) => Math.max(width, height));
  return shape.samples.map((sample, i) => {
    const put = (values: Partial<typeof sample>, said?: string) =>
      set({ ...shape, samples: shape.samples.with(i, { ...sample, ...values }) }, said);
    const number = shape.samples.length > 1 ? ` ${i + 1}` : "";
    return (
      <div key={i}>
        <Slider
          label={`Reach${number}`}
          value={sample.reach}
          min={4}
          max={2 * long}
          step={0.05}
          home={0.25 * long}
          unit="px"
          scale={{ to: Math.log2, from: (v) => 2 ** v }}
          show={(v) => String(Math.round(v))}
          onPreview={(v) => put({ reach: Math.round(v) })}
          onCommit={(v) => put({ reach: Math.round(v) }, `reach ${Math.round(v)}`)}
        />
        <PassSlider
          kind="Sample"
          field="strictness"
          title={`Strictness${number}`}
          value={sample.strictness}
          show={(v) => v.toFixed(2)}
          onSet={(strictness, said) => put({ strictness }, said)}
        />
        <div className="flex gap-1.5">
          <Button
            aria-label={`Copy sample${number}`}
            onClick={() => {
              const beside = sample.points.map(
                ([x, y]) => [x + 0.02 * long, y + 0.02 * long] as [number, number],
              );
              set(
                { ...shape, samples: [...shape.samples, { ...sample, points: beside }] },
                "sample copied",
              );
            }}
          >
            Copy sample
          </Button>
          {shape.samples.length > 1 && (
            <Button
              aria-label={`Remove sample${number}`}
              onClick={() =>
                set({ ...shape, samples: shape.samples.toSpliced(i, 1) }, "sample out")
              }
            >
              Remove
            </Button>
          )}
        </div>
      </div>
    );
  });
}
