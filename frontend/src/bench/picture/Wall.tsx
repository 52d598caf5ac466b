import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore } from "../../state/bench";
import { type Box, EYES, FIRST_WALL, SKIRTING, WALL_HEIGHT, type WallSettings } from "../wall";

/** A rule in cm below the print. */
export function Rule({ box, wide }: { box: Box; wide: number }) {
  const every = wide > 600 ? 20 : wide > 150 ? 10 : wide > 60 ? 5 : 1;
  const ticks = Array.from({ length: Math.floor(wide / 10 / every) + 1 }, (_, i) => i * every);
  const at = (cm: number) => (cm * 10 * box.width) / wide;
  return (
    <svg
      role="img"
      aria-label={`Rule: the print is ${(wide / 10).toFixed(1)} cm wide`}
      className="absolute overflow-visible"
      style={{ left: box.left, top: box.top + box.height + 14 }}
      width={box.width}
      height={24}
    >
      <path d={`M0 4H${box.width}`} stroke="#00000070" />
      {ticks.map((cm) => (
        <g key={cm}>
          <path d={`M${at(cm)} 0V8`} stroke="#00000070" />
          <text
            x={at(cm)}
            y={20}
            fontSize={10.5}
            fill="#000000a0"
            textAnchor={cm ? "middle" : "start"}
          >
            {cm === ticks.at(-1) && cm ? `${cm} cm` : cm}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** Floor, and the line of a person's eyes. */
export function Room({ width, height }: { width: number; height: number }) {
  const scale = height / WALL_HEIGHT;
  const eyes = height - EYES * scale;
  return (
    <svg
      role="img"
      aria-label="Wall of a room, with the height of a person's eyes"
      className="pointer-events-none absolute inset-0"
      width={width}
      height={height}
    >
      <rect
        y={height - SKIRTING * scale}
        width={width}
        height={SKIRTING * scale}
        fill="#0000001c"
      />
      <path d={`M0 ${eyes}H${width}`} stroke="#00000038" strokeDasharray="2 6" />
      <text x={16} y={eyes - 6} fontSize={10.5} fill="#00000090">
        eyes, 155 cm
      </text>
      <path
        d={`M16 ${height - SKIRTING * scale - 14}h${1000 * scale}m0 -4v8m${-1000 * scale} 0v-8`}
        stroke="#00000070"
        fill="none"
      />
      <text x={16} y={height - SKIRTING * scale - 22} fontSize={10.5} fill="#00000090">
        1 m
      </text>
    </svg>
  );
}

/** Wall, light, and from where it is looked at. */
export function WallBar() {
  const store = useBenchStore();
  const wall = useBench((bench) => bench.wall);
  const set = (values: Partial<WallSettings>) =>
    store.setState({ wall: { ...store.getState().wall, ...values } });
  return (
    <section
      aria-label="Wall and light"
      className="absolute top-2 right-3 left-3 z-20 mx-auto flex max-w-[860px] flex-wrap items-center gap-x-3 gap-y-1 rounded bg-panel/95 px-3 py-1"
    >
      <div className="w-[232px] shrink-0">
        <Slider
          label="Wall"
          description="How light the wall is"
          value={wall.tone}
          min={20}
          max={96}
          step={1}
          home={FIRST_WALL.tone}
          unit="L*"
          show={(v) => String(Math.round(v))}
          onPreview={(tone) => set({ tone })}
          onCommit={(tone) => set({ tone })}
        />
      </div>
      <div className="grow">
        <Segments
          label="Light level, ISO 3664"
          value={wall.level}
          onChange={(level) => set({ level })}
          options={[
            { value: "p1", text: "P1 2000 lx" },
            { value: "p2", text: "P2 500 lx" },
            { value: "room", text: "room" },
          ]}
        />
      </div>
      <div className="grow">
        <Segments
          label="Lamp"
          value={wall.lamp}
          onChange={(lamp) => set({ lamp })}
          options={[
            { value: "d50", text: "D50" },
            { value: "led", text: "4000 K" },
            { value: "warm", text: "2700 K" },
          ]}
        />
      </div>
      <div className="grow">
        <Segments
          label="Looked at from"
          value={wall.from}
          onChange={(from) => set({ from })}
          options={[
            { value: "near", text: "near" },
            { value: "room", text: "the room" },
          ]}
        />
      </div>
      <button
        type="button"
        title="Whether this screen tells the ends of the scale apart"
        onClick={() => store.setState({ dialog: "screen" })}
        className="text-note whitespace-nowrap text-soft hover:text-ink"
      >
        Screen check…
      </button>
    </section>
  );
}
