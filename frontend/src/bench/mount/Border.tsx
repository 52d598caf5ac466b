import { useState } from "react";
import type { Recipe } from "../../api/client";
import { fieldOf } from "../../api/client";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { type Scale, Slider } from "../../parts/Slider";
import { useBench, useTray } from "../../state/bench";
import { Heading, LOG2, StationSlider } from "../trays/parts";
import { fine, mm } from "./sizes";

type Mount = Recipe["mount"];
const SIDES = ["border_left", "border_top", "border_right", "border_bottom"] as const;
/** A quarter of an inch, as an easel leaves it. */
const EASEL = 6.35;

/** Size of the print, its white border, key line and edge. */
export function Border() {
  const { recipe, schema, change } = useTray();
  const { mount } = recipe;
  const { minimum } = fieldOf(schema, "mount", "size");
  const mounted = useBench((bench) => bench.header?.mounted);
  return (
    <>
      <Heading aside={mounted && `picture ${mm(mounted.picture)}`}>Print</Heading>
      <StationSlider
        station="mount"
        field="size"
        min={Math.max(minimum, ...SIDES.map((side) => Math.ceil(mount[side])))}
        scale={LENGTHS}
        show={(v) => String(Math.round(v))}
        label={(v) => `Long side ${Math.round(v)} mm`}
      />
      <StationSlider
        station="mount"
        field="resolution"
        scale={LENGTHS}
        show={(v) => String(Math.round(v))}
        label={(v) => `${Math.round(v)} ppi`}
      />
      {mounted && !mounted.enough && (
        <p role="status" className="text-note text-amber">
          The picture has not so many pixels: a file at print size is its full size.
        </p>
      )}
      <Borders />
      <Heading>Key line</Heading>
      <StationSlider
        station="mount"
        field="key_line"
        title="Width"
        show={fine}
        label={(v) => (v ? `Key line ${fine(v)} mm` : "No key line")}
      />
      {mount.key_line > 0 && (
        <>
          <StationSlider
            station="mount"
            field="key_gap"
            show={fine}
            label={(v) => `Gap ${fine(v)} mm`}
          />
          <StationSlider
            station="mount"
            field="key_tone"
            title="Tone"
            show={(v) => String(Math.round(v))}
            label={(v) => `Key line L* ${Math.round(v)}`}
          />
        </>
      )}
      <Heading>Edge</Heading>
      <Segments
        label="Edge"
        control="mount.edge"
        value={mount.edge}
        onChange={(edge) => change("mount", { edge }, EDGES[edge])}
        options={[
          { value: "clean", text: "clean" },
          { value: "rebate", text: "rebate" },
          { value: "filed", text: "filed carrier" },
        ]}
      />
      {mount.edge !== "clean" && (
        <StationSlider
          station="mount"
          field="edge_width"
          title="Width"
          show={fine}
          label={(v) => `Edge ${fine(v)} mm`}
        />
      )}
      {mount.edge === "filed" && (
        <div className="mt-1" data-control="mount.edge_seed">
          <Button
            title="Each frame has an edge of its own; this gives it another one"
            onClick={() =>
              change("mount", { edge_seed: (mount.edge_seed + 1) % 10000 }, "Another edge")
            }
          >
            Another edge
          </Button>
        </div>
      )}
    </>
  );
}

const EDGES = { clean: "Clean edge", rebate: "Rebate", filed: "Filed carrier's edge" };

/** White paper about the picture: all sides at once, or each. */
function Borders() {
  const { recipe, schema, change } = useTray();
  const { mount } = recipe;
  const even = SIDES.every((side) => mount[side] === mount.border_left);
  const [each, setEach] = useState(!even);
  const field = fieldOf(schema, "mount", "border_left");
  const all = (value: number, label?: string) =>
    change(
      "mount",
      Object.fromEntries(SIDES.map((side) => [side, value])) as Partial<Mount>,
      label,
    );
  const said = (v: number) => (v ? `Border ${fine(v)} mm` : "No border");
  return (
    <>
      <Heading
        aside={
          <button
            type="button"
            aria-expanded={each}
            className="text-faint hover:text-ink"
            onClick={() => setEach(!each)}
          >
            each side
          </button>
        }
      >
        White border
      </Heading>
      {each ? (
        SIDES.map((side) => (
          <StationSlider
            key={side}
            station="mount"
            field={side}
            title={side.replace("border_", "").replace(/^./, (c) => c.toUpperCase())}
            max={Math.min(field.maximum, mount.size)}
            scale={ROOT}
            home={EASEL}
            show={fine}
            label={(v) => `Border ${side.replace("border_", "")} ${fine(v)} mm`}
          />
        ))
      ) : (
        <Slider
          label="All sides"
          control="mount.border_left"
          description={field.description}
          min={field.minimum}
          max={Math.min(field.maximum, mount.size)}
          step={field.step}
          home={EASEL}
          unit={field.unit}
          scale={ROOT}
          value={mount.border_left}
          show={fine}
          onPreview={(v) => all(v)}
          onCommit={(v) => all(v, said(v))}
        />
      )}
      <div className="mt-1 flex gap-1.5">
        <Button
          title="A quarter of an inch, as an easel leaves it"
          onClick={() => all(EASEL, said(EASEL))}
        >
          Easel, ¼ inch
        </Button>
        {SIDES.some((side) => mount[side] > 0) && (
          <Button onClick={() => all(0, said(0))}>None</Button>
        )}
      </div>
    </>
  );
}

/** In millimetres, or pixels an inch: finer where they are few. */
const LENGTHS: Scale = { ...LOG2, grid: (v) => (v < 100 ? 1 : v < 500 ? 5 : 10) };
/** Narrow borders take more of the track. */
const ROOT: Scale = {
  to: Math.sqrt,
  from: (place) => place * place,
  grid: (v) => (v < 20 ? 0.5 : v < 100 ? 1 : 5),
};
