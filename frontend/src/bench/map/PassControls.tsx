import { type ReactNode, useState } from "react";
import { fieldOfKind, type Pass, within } from "../../api/client";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore, useTray } from "../../state/bench";
import { gradeName, seconds, signed } from "../../wording/format";
import { KindSlider } from "../trays/parts";
import { AreaControls } from "./AreaControls";
import { EFFECTS, nameOf, proposedName, secondsOf, stopsOf, usePasses } from "./passes";

const GROUPS = Array.from({ length: 10 }, (_, i) => i);
const OWN = -1.25; // below the softest grade: the print's own

const PARTS = [
  { value: "light", text: "Light" },
  { value: "area", text: "Area" },
  { value: "tones", text: "Tones" },
] as const;

type PassSliderProps = Omit<Parameters<typeof KindSlider>[0], "kind"> & { kind?: string };

/** A slider of a field of a pass, or of something in it. */
export const PassSlider = ({ kind = "Pass", ...slider }: PassSliderProps) => (
  <KindSlider kind={kind} {...slider} />
);

/** All that the chosen pass is and does. */
export function PassControls({ pass, index, base }: { pass: Pass; index: number; base: number }) {
  const store = useBenchStore();
  const part = useBench((bench) => bench.mapping.part);
  const passes = usePasses();
  const [name, setName] = useState<string | null>(null);
  const own = nameOf(pass, index);
  const set = (values: Partial<Pass>, said?: string) =>
    passes.change(index, values, said && `${own}: ${said}`);
  return (
    <div className="mt-2">
      <input
        aria-label="Name of the pass"
        value={name ?? pass.name}
        placeholder={proposedName(pass)}
        maxLength={80}
        onChange={(event) => setName(event.target.value)}
        onBlur={() => {
          if (name !== null && name !== pass.name) set({ name }, `called ${name || "as it is"}`);
          setName(null);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="mb-1.5 w-full rounded-[3px] border border-transparent bg-well px-2 py-1 text-[12.5px] placeholder:text-faint hover:border-lift"
      />
      <Segments
        label="Of the pass"
        value={part}
        onChange={(next) =>
          store.setState({ mapping: { ...store.getState().mapping, part: next } })
        }
        options={PARTS}
      />
      <div className="mt-1.5">
        {part === "light" && <Light pass={pass} base={base} set={set} />}
        {part === "area" && <AreaControls pass={pass} index={index} set={set} />}
        {part === "tones" &&
          EFFECTS.map((field) => (
            <PassSlider
              key={field}
              field={field}
              value={pass[field]}
              onSet={(value, said) => set({ [field]: value }, said)}
            />
          ))}
      </div>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button onClick={() => passes.copy(index)}>Copy</Button>
        <Button aria-label="Earlier" title="Earlier" onClick={() => passes.shift(index, -1)}>
          ↑
        </Button>
        <Button aria-label="Later" title="Later" onClick={() => passes.shift(index, 1)}>
          ↓
        </Button>
        <Held peek="alone" title="Only this pass, while it is held (O)">
          Alone
        </Held>
        <Button onClick={() => passes.remove(index)}>Take away</Button>
      </div>
    </div>
  );
}

/** Shows something for as long as it is held. */
export function Held({
  peek,
  hint,
  title,
  children,
}: {
  peek: "alone" | "areas" | "heat" | "base";
  hint?: string;
  title: string;
  children: ReactNode;
}) {
  const store = useBenchStore();
  const on = useBench((bench) => bench.peek === peek);
  const show = (shown: boolean) => store.setState({ peek: shown ? peek : null });
  return (
    <Button
      hint={hint}
      title={title}
      pressed={on}
      onPointerDown={() => show(true)}
      onPointerUp={() => show(false)}
      onPointerLeave={() => on && show(false)}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") {
          event.preventDefault();
          show(true);
        }
      }}
      onKeyUp={() => show(false)}
      onBlur={() => on && show(false)}
    >
      {children}
    </Button>
  );
}

interface PartProps {
  pass: Pass;
  set: (values: Partial<Pass>, said?: string) => void;
}

function Light({ pass, base, set }: PartProps & { base: number }) {
  const { schema, facts } = useTray();
  const stops = fieldOfKind(schema, "Pass", "stops");
  const grade = fieldOfKind(schema, "Pass", "grade");
  const asSeconds = {
    to: (value: number) => stopsOf(value, base),
    from: (place: number) => secondsOf(place, base),
  };
  const through = (v: number) => (v < grade.minimum ? "own" : gradeName(v));
  return (
    <>
      <Slider
        label="Seconds"
        value={secondsOf(pass.stops, base)}
        min={secondsOf(stops.minimum, base)}
        max={secondsOf(stops.maximum, base)}
        step={1 / 12}
        home={0}
        unit="s"
        scale={asSeconds}
        show={(v) => `${v < 0 ? "−" : "+"}${seconds(Math.abs(v))}`}
        onPreview={(v) => set({ stops: stopsOf(v, base) })}
        onCommit={(v) => set({ stops: stopsOf(v, base) }, `${signed(v, 1)} s`)}
      />
      <PassSlider
        field="stops"
        title="Stops"
        value={pass.stops}
        onSet={(value, said) => set({ stops: value }, said)}
      />
      {pass.stops <= stops.minimum && (
        <p role="status" className="text-note text-amber">
          Held back for all of the base exposure: it stays paper white.
        </p>
      )}
      <Slider
        label="Through"
        description={grade.description}
        value={pass.grade ?? OWN}
        min={OWN}
        max={grade.maximum}
        step={grade.step}
        home={OWN}
        unit="grade"
        show={through}
        onPreview={(v) => set({ grade: v < grade.minimum ? null : v })}
        onCommit={(v) =>
          set({ grade: v < grade.minimum ? null : within(v, grade) }, `through ${through(v)}`)
        }
      />
      {pass.grade !== null && facts?.any_grade === false && (
        <p role="status" className="text-note text-amber">
          This paper has fixed grades: the pass is given on its own.
        </p>
      )}
      <PassSlider
        field="strength"
        value={pass.strength}
        scale={100}
        show={(v) => String(Math.round(v))}
        onSet={(value, said) => set({ strength: value }, said)}
      />
      <label className="grid h-[27px] grid-cols-[88px_1fr] items-center gap-2 text-[12.5px] text-soft">
        Group
        <select
          value={pass.group}
          title="Of passes in one group the strongest counts at each place, so that they do not pile up"
          onChange={(event) => {
            const group = Number(event.target.value);
            set({ group }, group ? `in group ${group}` : "in no group");
          }}
          className="rounded-[3px] border border-transparent bg-well px-1.5 py-[3px] text-ink hover:border-lift"
        >
          {GROUPS.map((group) => (
            <option key={group} value={group}>
              {group ? `Group ${group}` : "none"}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}
