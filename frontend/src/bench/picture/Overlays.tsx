import { useMemo } from "react";
import { pointOn, sizeOf, useBench, useBenchStore } from "../../state/bench";
import { dust, sureSpecks, useDust } from "../../state/dust";
import { drawn } from "../../state/sheets";
import { type Crop, WHOLE } from "../cropping";
import { MeterOverlay, radiusOf } from "../Meter";
import {
  capturePlace,
  captureToPicture,
  middleOf,
  type PicturePlace,
  type Placed,
  pictureToWindow,
} from "../places";
import { useMends } from "../useMends";
import { CropOverlay } from "./CropOverlay";
import { FocusOverlay } from "./FocusOverlay";
import { MendOverlay } from "./MendOverlay";
import { PassOverlay } from "./PassOverlay";
import { Replay } from "./Replay";

/** What lies over the picture: what the tool in hand and the controls that are out need there. */
export function Overlays({ at }: { at: Placed }) {
  const { tool, station, parts, colour, blurs, plain, timed } = useBench((bench) => ({
    timed: bench.shown.kind === "timed",
    tool: bench.tool,
    station: bench.station,
    parts: bench.parts,
    colour: bench.peek === "colour",
    blurs: bench.recipe.light.focus_blur > 0,
    plain: bench.shown.kind === "print",
  }));
  if (tool.kind === "meter") return <Meter at={at} />;
  if (colour) return null;
  if (tool.kind === "crop") return <Cropping at={at} />;
  if (tool.kind === "mend") return <Mends at={at} />;
  if (tool.kind === "lines" && tool.first) return <DrawnLine at={at} ends={tool.first} />;
  if (timed) return <Replay at={at} />;
  if (station === "enlarger" && parts.enlarger === "map" && plain) return <PassOverlay at={at} />;
  const focusing = station === "light" && parts.light === "air" && blurs;
  return focusing ? <FocusOverlay at={at} /> : null;
}

function Meter({ at }: { at: Placed }) {
  const { point, radius } = useBench((bench) => ({
    point: pointOn(bench),
    radius: radiusOf(bench.circle, bench.frame),
  }));
  return <MeterOverlay at={at} point={point} radius={radius} />;
}

function Cropping({ at }: { at: Placed }) {
  const store = useBenchStore();
  const size = useBench(sizeOf);
  const { crop, cropping, change } = useBench(({ recipe, cropping, change }) => ({
    crop: recipe.capture.crop,
    cropping,
    change,
  }));
  return (
    <CropOverlay
      at={at}
      frame={size}
      crop={(crop as Crop | null) ?? WHOLE}
      ratio={cropping.ratio}
      guide={cropping.guide}
      onCrop={(next, done) => {
        change("capture", { crop: next }, done ? "Cropped" : undefined);
        if (done) store.setState({ cropping: { ...cropping, from: { drawn: next, made: next } } });
      }}
    />
  );
}

function Mends({ at }: { at: Placed }) {
  const shape = useBench((bench) => bench.shape);
  const { mends, outlines } = useBench(({ recipe }) => ({
    mends: recipe.capture.mends,
    outlines: recipe.capture.protected,
  }));
  const found = useDust();
  const actions = useMends();
  const shown = useMemo(() => {
    const onPicture = (x: number, y: number) =>
      captureToPicture(shape, middleOf(capturePlace(x, y)));
    return {
      mends: drawn("mends", mends).map(({ x, y, radius, path, fill }) => ({
        places: [[x, y] as const, ...path].map(([px = 0, py = 0]) => onPicture(px, py)),
        radius,
        fill,
      })),
      outlines: drawn("protected", outlines).map((outline) =>
        outline.points.map(([x = 0, y = 0]) => onPicture(x, y)),
      ),
    };
  }, [shape, mends, outlines]);
  return (
    <MendOverlay
      at={at}
      mends={shown.mends}
      outlines={shown.outlines}
      specks={sureSpecks(found)}
      onSource={actions.from}
      onRemove={actions.remove}
      onFree={actions.free}
      onAccept={(speck) => {
        actions.accept([speck]);
        dust.without([speck]);
      }}
    />
  );
}

/** The first of two lines, while the second is drawn. */
function DrawnLine({ at, ends }: { at: Placed; ends: [PicturePlace, PicturePlace] }) {
  const [a, b] = [pictureToWindow(at, ends[0]), pictureToWindow(at, ends[1])];
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke="#e8a24a" strokeWidth={1.5} />
    </svg>
  );
}
