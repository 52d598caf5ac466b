import { useState } from "react";
import { fieldOfKind, type Pass } from "../../api/client";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore, useTray } from "../../state/bench";
import { seconds, share, signed } from "../../wording/format";
import {
  type Drawn,
  FIRST,
  letterOf,
  nameOf,
  saidSeconds,
  secondsOf,
  stopsOf,
  usePasses,
} from "../passes";
import { Heading, HoldToSee } from "./parts";

const GROUPS = Array.from({ length: 10 }, (_, i) => i);
const WORTH_SAYING = 0.002;

const HOW: Record<"disc" | "card", string> = {
  disc: "Press in the middle of what matters and draw out as far as it goes.",
  card: "Draw from where it is full to where nothing of it is left.",
};

/** Part of the Enlarger: all that is dodged and burned, in order. */
export function PrintingMap() {
  const store = useBenchStore();
  const { recipe } = useTray();
  const { tool, chosen, base } = useBench(({ tool, pass, facts }) => ({
    tool: tool.kind === "shape" ? tool : null,
    chosen: pass,
    base: facts?.time ?? 12,
  }));
  const passesOf = usePasses();
  const [way, setWay] = useState<"burn" | "dodge">("burn");
  const { passes } = recipe.enlarger;
  const pass = chosen === null ? undefined : passes[chosen];
  const drawn: Drawn = (pass && tool?.drawn) || "pass";
  const take = (
    shape: "disc" | "card" | null,
    as: Drawn = drawn,
    stops = way === "dodge" ? -FIRST : FIRST,
  ) => store.getState().take(shape ? { kind: "shape", shape, drawn: as, stops } : { kind: "look" });
  return (
    <>
      <div className="grid grid-cols-[88px_1fr] items-center gap-2">
        <span className="text-[12.5px] text-soft">New pass</span>
        <Segments
          label="New pass"
          value={way}
          onChange={(next) => {
            setWay(next);
            if (tool) take(tool.shape, drawn, next === "dodge" ? -FIRST : FIRST);
          }}
          options={[
            { value: "burn", text: "Burn" },
            { value: "dodge", text: "Dodge" },
          ]}
        />
      </div>
      <div className="mt-1.5 flex gap-1.5">
        {(["disc", "card"] as const).map((shape) => (
          <Button
            key={shape}
            pressed={tool?.shape === shape}
            onClick={() => take(tool?.shape === shape ? null : shape)}
          >
            {shape === "disc" ? "Disc" : "Card"}
          </Button>
        ))}
        <Button
          title="All four edges at once, as one pass"
          onClick={() => passesOf.edges(way === "dodge" ? -FIRST : FIRST)}
        >
          Edges
        </Button>
      </div>
      {tool && pass && (
        <div className="mt-1.5">
          <Segments
            label="What is drawn"
            value={drawn}
            onChange={(next) => take(tool.shape, next)}
            options={[
              { value: "pass", text: "A new pass" },
              { value: "add", text: `Add to ${letterOf(chosen ?? 0)}` },
              { value: "take", text: "Take away" },
              { value: "keep", text: "Keep" },
            ]}
          />
        </div>
      )}
      <p className="mt-1.5 min-h-[32px] text-note text-soft">
        {tool
          ? HOW[tool.shape]
          : "A disc holds back or burns in what lies in it; a card, all on one side of its edge."}
      </p>
      <Heading aside={passes.length ? `base ${seconds(base)} s` : "nothing yet"}>
        Printing map
      </Heading>
      <ul
        aria-label="Passes"
        className="flex max-h-[152px] shrink-0 flex-col gap-1 overflow-y-auto"
      >
        {passes.map((each, index) => (
          // by place: the order is what printers go by
          <Row key={index} pass={each} index={index} base={base} />
        ))}
      </ul>
      <Piled />
      {passes.length > 0 && (
        <p className="mt-1 text-note text-faint">Hold U to see the base exposure alone.</p>
      )}
      {pass && chosen !== null && <Chosen pass={pass} index={chosen} base={base} />}
    </>
  );
}

/** Where passes of no group add up to more than a stop. */
function Piled() {
  const part = useBench(({ reading }) => reading?.piled ?? 0);
  if (part < WORTH_SAYING) return null;
  return (
    <div className="mt-1">
      <HoldToSee peek="piled" title="There passes of no common group lie on each other">
        <span className="text-amber">More than a stop in all: {share(part)}</span>
      </HoldToSee>
    </div>
  );
}

function Row({ pass, index, base }: { pass: Pass; index: number; base: number }) {
  const store = useBenchStore();
  const chosen = useBench((bench) => bench.pass === index);
  const { change } = usePasses();
  return (
    <li
      ref={(row) => {
        if (chosen) row?.scrollIntoView({ block: "nearest" });
      }}
      className={`grid grid-cols-[20px_1fr_auto_auto] items-center gap-2 rounded-[3px] border bg-well px-2 py-0.5 text-[12.5px] ${
        chosen ? "border-amber" : "border-transparent"
      }`}
    >
      <b className={`font-[620] ${chosen ? "text-amber" : ""}`}>{letterOf(index)}</b>
      <button
        type="button"
        aria-pressed={chosen}
        onClick={() => store.setState({ pass: chosen ? null : index })}
        className={`truncate text-left ${pass.on ? "" : "text-faint line-through"}`}
      >
        {pass.name || (pass.stops < 0 ? "dodge" : "burn")}
      </button>
      <span className={pass.on ? "" : "text-faint"}>{saidSeconds(pass, base)}</span>
      <input
        type="checkbox"
        checked={pass.on}
        aria-label={`${nameOf(pass, index)} on`}
        onChange={() =>
          change(index, { on: !pass.on }, `${nameOf(pass, index)} ${pass.on ? "off" : "on"}`)
        }
        className="accent-amber"
      />
    </li>
  );
}

function Chosen({ pass, index, base }: { pass: Pass; index: number; base: number }) {
  const { schema } = useTray();
  const passes = usePasses();
  const [name, setName] = useState<string | null>(null);
  const stops = fieldOfKind(schema, "Pass", "stops");
  const strength = fieldOfKind(schema, "Pass", "strength");
  const soft = fieldOfKind(schema, "Disc", "soft");
  const own = nameOf(pass, index);
  const set = (values: Partial<Pass>, label?: string) => passes.change(index, values, label);
  const discs = pass.shapes.flatMap((shape, i) => (shape.kind === "disc" ? [{ shape, i }] : []));
  const asSeconds = {
    to: (value: number) => stopsOf(value, base),
    from: (place: number) => secondsOf(place, base),
  };
  return (
    <div className="mt-2">
      <input
        aria-label="Name of the pass"
        value={name ?? pass.name}
        placeholder={own}
        maxLength={80}
        onChange={(event) => setName(event.target.value)}
        onBlur={() => {
          if (name !== null && name !== pass.name)
            set({ name }, `${own} is called ${name || "as it is"}`);
          setName(null);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="mb-1 w-full rounded-[3px] border border-transparent bg-well px-2 py-1 text-[12.5px] placeholder:text-faint hover:border-lift"
      />
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
        onCommit={(v) => set({ stops: stopsOf(v, base) }, `${own} ${signed(v, 1)} s`)}
      />
      <Slider
        label="Stops"
        value={pass.stops}
        min={stops.minimum}
        max={stops.maximum}
        step={stops.step}
        home={0}
        unit="stops"
        show={(v) => signed(v, 2)}
        onPreview={(v) => set({ stops: v })}
        onCommit={(v) => set({ stops: v }, `${own} ${passes.said(v)}`)}
      />
      {pass.stops <= stops.minimum && (
        <p role="status" className="text-note text-amber">
          Held back for all of the base exposure: it stays paper white.
        </p>
      )}
      <Slider
        label="Strength"
        value={100 * pass.strength}
        min={100 * strength.minimum}
        max={100 * strength.maximum}
        step={5}
        home={100}
        unit="%"
        show={(v) => String(Math.round(v))}
        onPreview={(v) => set({ strength: v / 100 })}
        onCommit={(v) => set({ strength: v / 100 }, `${own} at ${Math.round(v)} %`)}
      />
      {discs.map(({ shape, i }) => (
        <Slider
          key={i}
          label={discs.length > 1 ? `Softness ${i + 1}` : "Softness"}
          value={shape.soft}
          min={soft.minimum}
          max={soft.maximum}
          step={soft.step}
          home={Number(soft.default)}
          show={(v) => v.toFixed(2)}
          onPreview={(v) => passes.shape(index, i, { ...shape, soft: v }, false)}
          onCommit={(v) => passes.shape(index, i, { ...shape, soft: v }, true)}
        />
      ))}
      <label className="grid h-[27px] grid-cols-[88px_1fr] items-center gap-2 text-[12.5px] text-soft">
        Group
        <select
          value={pass.group}
          title="Of passes in one group the strongest counts at each place, so that they do not pile up"
          onChange={(event) => {
            const group = Number(event.target.value);
            set({ group }, group ? `${own} in group ${group}` : `${own} in no group`);
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
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button
          pressed={pass.opposite}
          title="All but the area"
          onClick={() =>
            set(
              { opposite: !pass.opposite },
              `${own}: ${pass.opposite ? "its area" : "all but its area"}`,
            )
          }
        >
          Opposite
        </Button>
        <Button onClick={() => passes.copy(index)}>Copy</Button>
        <Button aria-label="Earlier" onClick={() => passes.shift(index, -1)}>
          ↑
        </Button>
        <Button aria-label="Later" onClick={() => passes.shift(index, 1)}>
          ↓
        </Button>
        <Button onClick={() => passes.remove(index)}>Take away</Button>
      </div>
    </div>
  );
}
