import { useMutation } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { api, fieldOfKind } from "../../api/client";
import { Button } from "../../parts/Button";
import { useNotice } from "../../parts/Notice";
import { Segments } from "../../parts/Segments";
import { Slider } from "../../parts/Slider";
import { type MendKind, useBench, useBenchStore, useTray } from "../../state/bench";
import { dust, sureSpecks, useDust } from "../../state/dust";
import { drawn } from "../../state/sheets";
import { readNumber } from "../../wording/numbers";
import { useMends } from "../useMends";
import { Heading, LOG2 } from "./parts";

const HOW: Record<MendKind, string> = {
  mend: "Press on a speck or draw along a hair: it is repaired from beside it. Drag from a mend to choose another source; double-click takes it away.",
  fill: "Draw over a larger thing: what lay behind it is put together from all around.",
  protect:
    "Draw round what mends must leave alone, a chimney beside a speck. Double-click on the outline takes it away.",
};

const many = (count: number, one: string, more = `${one}s`) =>
  count === 1 ? `1 ${one}` : `${count} ${more}`;

/** Dust and blemishes, in light, before the film. */
export function SpotControls() {
  const { frame, recipe, schema, change } = useTray();
  const store = useBenchStore();
  const { tool, radius } = useBench(({ tool, mendRadius }) => ({ tool, radius: mendRadius }));
  const kind = tool.kind === "mend" ? tool.as : null;
  const range = fieldOfKind(schema, "Mend", "radius");
  const tell = useNotice();
  const mends = useMemo(() => drawn("mends", recipe.capture.mends), [recipe.capture.mends]);
  const outlines = useMemo(
    () => drawn("protected", recipe.capture.protected),
    [recipe.capture.protected],
  );
  // what is found holds for the shape the picture has now
  useEffect(() => dust.drop, []);
  const carry = useMutation({
    mutationFn: () => api.carryDust(frame.id, recipe),
    onError: tell,
  });
  const set = (next: number) => store.setState({ mendRadius: Math.round(next) });
  const singles = mends.filter((m) => !m.path?.length && !m.fill).length;
  return (
    <>
      <Segments
        label="What is drawn"
        control="capture.mends capture.protected"
        value={kind}
        onChange={(as) => store.getState().take({ kind: "mend", as })}
        options={[
          { value: "mend", text: "Mend" },
          { value: "fill", text: "Take out" },
          { value: "protect", text: "Protect" },
        ]}
      />
      {kind !== "protect" && (
        <div className="mt-2">
          <Slider
            label="Size"
            description="Radius of the next mend, or half the width of a stroke"
            value={radius}
            min={range.minimum}
            max={range.maximum}
            step={0.05}
            home={14}
            unit="px"
            scale={LOG2}
            show={(v) => String(Math.round(v))}
            onPreview={set}
            onCommit={set}
          />
        </div>
      )}
      <p className="mt-1.5 min-h-[54px] text-note text-soft">{HOW[kind ?? "mend"]}</p>
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
      <DustFinder />
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

function DustFinder() {
  const { frame, recipe } = useTray();
  const tell = useNotice();
  const state = useDust();
  const { accept } = useMends();
  const { found, least, seeking } = state;
  if (!found) {
    return (
      <Button disabled={seeking} onClick={() => dust.seek(frame.id, recipe, tell)}>
        {seeking ? "Looking over the roll…" : "Find probable dust"}
      </Button>
    );
  }
  const specks = sureSpecks(state);
  const sure = specks.length;
  return (
    <>
      <Slider
        label="At least"
        description="How likely a place must be dust to be shown"
        value={least}
        min={0.05}
        max={0.95}
        step={0.05}
        home={0.3}
        unit="%"
        show={(v) => String(Math.round(v * 100))}
        read={(text) => (readNumber(text, "%") ?? Number.NaN) / 100}
        onPreview={dust.least}
        onCommit={dust.least}
      />
      <p role="status" className="mt-1 text-note text-soft">
        {many(sure, "probable speck")} of {found.specks.length}; {many(found.frames, "other frame")}{" "}
        looked at. Click on one to mend it.
      </p>
      <div className="mt-1.5 flex gap-1.5">
        {sure > 0 && (
          <Button
            go
            onClick={() => {
              accept(specks);
              dust.without(specks);
            }}
          >
            Mend {sure === 1 ? "it" : `all ${sure}`}
          </Button>
        )}
        <Button onClick={dust.drop}>{sure ? "Leave" : "Done"}</Button>
      </div>
    </>
  );
}
