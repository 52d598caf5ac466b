import { useMutation } from "@tanstack/react-query";
import { api } from "../../api/client";
import { Button } from "../../parts/Button";
import { useNotice } from "../../parts/Notice";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import type { MendKind } from "../useCaptureTools";
import { Heading } from "./parts";
import type { TrayProps } from "./tray";

const LEAST_MEND = 3;
const MOST_MEND = 300;

const HOW: Record<MendKind, string> = {
  mend: "Press on a speck or draw along a hair: it is repaired from beside it. Drag from a mend to choose another source; double-click takes it away.",
  fill: "Draw over a larger thing: what lay behind it is put together from all around.",
  protect:
    "Draw round what mends must leave alone, a chimney beside a speck. Double-click on the outline takes it away.",
};

const many = (count: number, one: string, more = `${one}s`) =>
  count === 1 ? `1 ${one}` : `${count} ${more}`;

/** Dust and blemishes, in light, before the film. */
export function SpotControls({ frame, recipe, change, tools }: TrayProps) {
  const tell = useNotice();
  const mends = recipe.capture.mends ?? [];
  const outlines = recipe.capture.protected ?? [];
  const carry = useMutation({
    mutationFn: () => api.carryDust(frame.id, recipe),
    onError: tell,
  });
  const set = (radius: number) => tools.onRadius(Math.round(radius));
  const singles = mends.filter((m) => !m.path?.length && !m.fill).length;
  return (
    <>
      <Segments
        label="What is drawn"
        value={tools.kind}
        onChange={tools.onKind}
        options={[
          { value: "mend", text: "Mend" },
          { value: "fill", text: "Take out" },
          { value: "protect", text: "Protect" },
        ]}
      />
      {tools.kind !== "protect" && (
        <div className="mt-2">
          <Slider
            label="Size"
            description="Radius of the next mend, or half the width of a stroke"
            value={tools.radius}
            min={LEAST_MEND}
            max={MOST_MEND}
            step={0.05}
            home={14}
            unit="px"
            scale={{ to: Math.log2, from: (place) => 2 ** place }}
            show={(v) => String(Math.round(v))}
            onPreview={set}
            onCommit={set}
          />
        </div>
      )}
      <p className="mt-1.5 min-h-[54px] text-note text-soft">{HOW[tools.kind]}</p>
      <p className="mt-1 text-note text-faint">
        Look at 100 % (+); hold Space to move the picture.
      </p>
      <Heading aside={mends.length ? many(mends.length, "mend") : "none yet"}>
        On this frame
      </Heading>
      <div className="flex flex-wrap items-center gap-1.5">
        <Button
          disabled={!mends.length}
          onClick={() => change("capture", { mends: [] }, "All mends taken away")}
        >
          Take all away
        </Button>
        {outlines.length > 0 && (
          <Button onClick={() => change("capture", { protected: [] }, "No protection")}>
            Free {many(outlines.length, "outline")}
          </Button>
        )}
      </div>
      <Heading>Dust finder</Heading>
      <DustFinder tools={tools} />
      <Heading>The roll</Heading>
      <div>
        <Button
          disabled={!singles || carry.isPending}
          title="Dust lies at the same place of the sensor: mend it there on every frame of the roll from this camera"
          onClick={() => carry.mutate()}
        >
          Carry {singles ? many(singles, "mend") : "mends"} to the roll
        </Button>
      </div>
      {carry.data && (
        <p role="status" className="mt-1.5 text-note text-soft">
          {many(carry.data.specks, "speck")} on the roll's dust map;{" "}
          {many(carry.data.frames, "frame")} of this camera, {many(carry.data.prints, "print")}{" "}
          mended. Each can be undone there.
          {carry.data.other_size > 0 &&
            ` ${many(carry.data.other_size, "frame")} of another camera or size left out.`}
        </p>
      )}
    </>
  );
}

function DustFinder({ tools }: Pick<TrayProps, "tools">) {
  const { dust } = tools;
  if (!dust) {
    return (
      <Button disabled={tools.seeking} onClick={tools.seekDust}>
        {tools.seeking ? "Looking over the roll…" : "Find probable dust"}
      </Button>
    );
  }
  const sure = dust.found.specks.filter((s) => s.likely >= dust.least).length;
  return (
    <>
      <Slider
        label="At least"
        description="How likely a place must be dust to be shown"
        value={dust.least}
        min={0.05}
        max={0.95}
        step={0.05}
        home={0.3}
        unit="%"
        show={(v) => String(Math.round(v * 100))}
        read={(text) => Number.parseFloat(text) / 100}
        onPreview={tools.onLeast}
        onCommit={tools.onLeast}
      />
      <p role="status" className="mt-1 text-note text-soft">
        {many(sure, "probable speck")} of {dust.found.specks.length};{" "}
        {many(dust.found.frames, "other frame")} looked at. Click on one to mend it.
      </p>
      <div className="mt-1.5 flex gap-1.5">
        {sure > 0 && (
          <Button go onClick={tools.mendDust}>
            Mend {sure === 1 ? "it" : `all ${sure}`}
          </Button>
        )}
        <Button onClick={tools.dropDust}>{sure ? "Leave" : "Done"}</Button>
      </div>
    </>
  );
}
