import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore } from "../../state/bench";
import { LEAST_RADIUS, type Mapping } from "../../state/mapping";
import { signed } from "../../wording/format";
import {
  type Drawn,
  KINDS,
  letterOf,
  READY,
  type ReadyKind,
  secondsOf,
  stopsOfWay,
  usePasses,
  usePassList,
  type Way,
} from "./passes";
import { passOf } from "./wholes";

type DrawnKind = "disc" | "card" | "brush" | "outline" | "alike";
const DRAWN: DrawnKind[] = ["disc", "card", "brush", "outline", "alike"];
const READY_KINDS = Object.keys(READY) as ReadyKind[];

const HOW: Record<DrawnKind | "strokes" | "held", string> = {
  disc: "Press in the middle of what matters and draw out as far as it goes.",
  card: "Draw from where it is full to where nothing is left. Shift keeps it level.",
  brush: "Draw over what matters; going over it again adds. Shift takes away.",
  outline: "Draw round it, or press corner by corner and the first one again.",
  alike: "Touch what matters, or draw a short stroke over it. Touch again for more.",
  strokes: "Each stroke adds one step. Shift takes back.",
  held: "Press and hold: the seconds run, and the shape follows.",
};

const ICONS: Record<DrawnKind | ReadyKind, string> = {
  disc: "M8 3a5.5 4.5 0 1 0 .01 0z",
  card: "M1.5 4.5h13M1.5 8h13M3 11.5h2M7 11.5h2M11 11.5h2",
  brush: "M2 12c3-7 5 2 7-4 1-3 3-3 5-4",
  outline: "M3 5l6-2 5 4-2 6-7 0z",
  alike: "M4.5 4.5h.01M10.5 3.5h.01M7.5 8.5h.01M12.5 9.5h.01M4 12h.01",
  sky: "M1.5 11.5h13M3 8a3 3 0 0 1 5-2 2.5 2.5 0 0 1 4.5 2z",
  foliage: "M8 14V8M8 9c-5 0-5-5-5-6 4 0 5 2 5 6zM8 8c0-3 2-5 5-5 0 3-1 5-5 5z",
  whole: "M2 3.5h12v9H2z",
  sides: "M2 3.5h12v9H2zM4.5 6h7v4h-7z",
  oval: "M2 3.5h12v9H2zM8 5a4.5 3 0 1 0 .01 0z",
  "fall-off": "M3 13a5 5 0 0 1 10 0M8 8V2.5M5.5 5L8 2.5 10.5 5",
};

const WAYS_OF_WORKING = [
  { value: "strokes", text: "Strokes" },
  { value: "shapes", text: "Shapes" },
  { value: "held", text: "By hand" },
] as const;

/** What is taken in hand to work the map: strokes, shapes, or something that is held. */
export function Tools() {
  const store = useBenchStore();
  const { tool, mapping, chosen, base, side } = useBench((bench) => ({
    tool: bench.tool,
    mapping: bench.mapping,
    chosen: bench.pass,
    base: bench.facts?.time ?? 12,
    side: Math.max(bench.frame.width, bench.frame.height),
  }));
  const passes = usePasses();
  const list = usePassList();
  const own = chosen === null ? undefined : list[chosen];
  const set = (values: Partial<Mapping>) =>
    store.setState({ mapping: { ...store.getState().mapping, ...values } });
  const { take } = store.getState();
  const way = tool.kind === "strokes" ? "strokes" : tool.kind === "hold" ? "held" : "shapes";
  const drawn: Drawn = tool.kind === "shape" ? tool.drawn : "pass";
  const draw = (shape: DrawnKind) => {
    const off = tool.kind === "shape" && tool.shape === shape;
    take(off ? { kind: "look" } : { kind: "shape", shape, drawn: own ? drawn : "pass" });
  };
  const add = (kind: ReadyKind) => {
    if (tool.kind === "shape" && own) passes.draw(tool.drawn, READY[kind]());
    else passes.add(passOf([READY[kind]()], { stops: stopsOfWay(mapping.way) }));
  };
  const brushes = way === "strokes" || (tool.kind === "shape" && tool.shape === "brush");
  return (
    <>
      <div className="grid grid-cols-[2fr_3fr] gap-1.5">
        <Segments
          label="Dodge or burn"
          value={mapping.way}
          onChange={(next: Way) => set({ way: next })}
          options={[
            { value: "dodge", text: "Dodge" },
            { value: "burn", text: "Burn" },
          ]}
        />
        <Segments
          label="Way of working"
          value={way}
          onChange={(next) =>
            take(
              next === "strokes"
                ? { kind: "strokes" }
                : next === "held"
                  ? { kind: "hold", shape: "disc" }
                  : { kind: "look" },
            )
          }
          options={WAYS_OF_WORKING}
        />
      </div>
      {way === "shapes" && (
        <>
          <div
            role="toolbar"
            aria-label="Shapes"
            className="mt-1.5 grid grid-cols-6 gap-1 wide:grid-cols-11"
          >
            {DRAWN.map((kind) => (
              <Shape
                key={kind}
                kind={kind}
                pressed={tool.kind === "shape" && tool.shape === kind}
                onPress={() => draw(kind)}
              />
            ))}
            {READY_KINDS.map((kind) => (
              <Shape key={kind} kind={kind} onPress={() => add(kind)} />
            ))}
          </div>
          {own && (
            <div className="mt-1.5">
              <Segments
                label="What is drawn"
                value={drawn}
                onChange={(next) =>
                  take({
                    kind: "shape",
                    shape: tool.kind === "shape" ? tool.shape : "disc",
                    drawn: next,
                  })
                }
                options={[
                  { value: "pass", text: "New pass" },
                  { value: "add", text: `Add to ${letterOf(chosen ?? 0)}` },
                  { value: "take", text: "Take away" },
                  { value: "keep", text: "Keep" },
                ]}
              />
            </div>
          )}
        </>
      )}
      {tool.kind === "hold" && (
        <div className="mt-1.5 flex gap-1.5">
          {(["disc", "card"] as const).map((shape) => (
            <Button
              key={shape}
              pressed={tool.shape === shape}
              onClick={() => take({ kind: "hold", shape })}
            >
              {KINDS[shape]}
            </Button>
          ))}
        </div>
      )}
      {way === "strokes" && (
        <Slider
          label="Step"
          description="What one stroke adds (, and . with Shift)"
          value={mapping.step}
          min={1 / 24}
          max={1}
          step={1 / 24}
          home={1 / 6}
          unit="stop"
          show={(v) => signed(stopsOfWay(mapping.way, v), 2)}
          read={(text) => Math.abs(Number(text.replace("−", "-").replace(",", ".")))}
          onPreview={(step) => set({ step })}
          onCommit={(step) => set({ step })}
        />
      )}
      {(brushes || way === "held") && (
        <Slider
          label="Size"
          description="From its middle to its edge, in pixels of the capture (, and .)"
          value={way === "held" ? mapping.held : mapping.radius}
          min={LEAST_RADIUS}
          max={side}
          step={0.02}
          home={Math.round(side * (way === "held" ? 0.08 : 0.03))}
          unit="px"
          scale={{ to: Math.log2, from: (v) => 2 ** v }}
          show={(v) => String(Math.round(v))}
          onPreview={(v) => set({ [way === "held" ? "held" : "radius"]: Math.round(v) })}
          onCommit={(v) => set({ [way === "held" ? "held" : "radius"]: Math.round(v) })}
        />
      )}
      {brushes && (
        <>
          <Slider
            label="Softness"
            value={mapping.soft}
            min={0.05}
            max={2}
            step={0.05}
            home={0.8}
            show={(v) => v.toFixed(2)}
            onPreview={(soft) => set({ soft })}
            onCommit={(soft) => set({ soft })}
          />
          {way !== "strokes" && (
            <Slider
              label="Flow"
              description="What going over a place once leaves"
              value={Math.round(100 * mapping.flow)}
              min={1}
              max={200}
              step={1}
              home={100}
              unit="%"
              show={(v) => String(Math.round(v))}
              onPreview={(v) => set({ flow: v / 100 })}
              onCommit={(v) => set({ flow: v / 100 })}
            />
          )}
          <label className="flex h-[27px] items-center gap-2 text-[12.5px] text-soft">
            <input
              type="checkbox"
              checked={mapping.take}
              onChange={() => set({ take: !mapping.take })}
              className="accent-amber"
            />
            Strokes take back
          </label>
        </>
      )}
      <p className="mt-1.5 min-h-[32px] text-note text-soft">
        {tool.kind === "strokes"
          ? `${HOW.strokes} A step here is ${signed(secondsOf(stopsOfWay(mapping.way, mapping.step), base))} s.`
          : tool.kind === "hold"
            ? HOW.held
            : tool.kind === "shape"
              ? HOW[tool.shape]
              : "D and B dodge and burn by strokes. A shape becomes a pass of its own."}
      </p>
    </>
  );
}

function Shape({
  kind,
  pressed,
  onPress,
}: {
  kind: DrawnKind | ReadyKind;
  pressed?: boolean;
  onPress: () => void;
}) {
  return (
    <button
      type="button"
      aria-label={KINDS[kind]}
      aria-pressed={pressed}
      title={KINDS[kind]}
      onClick={onPress}
      className={`flex h-7 items-center justify-center rounded-[3px] border bg-well hover:bg-lift ${
        pressed ? "border-amber text-amber" : "border-transparent text-ink"
      }`}
    >
      <svg viewBox="0 0 16 16" className="size-4.5" aria-hidden="true">
        <path
          d={ICONS[kind]}
          fill="none"
          stroke="currentColor"
          strokeWidth={kind === "alike" ? 3 : 1.3}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </svg>
    </button>
  );
}
