import { useCallback, useMemo, useState } from "react";
import type { LiveView, Reading } from "../../api/client";
import { useBench } from "../../state/bench";
import { type Told, useLiveCanvas } from "../picture/useLivePicture";
import { placeOf, type Size } from "../places";
import { Figures } from "./Figures";
import { nameOf, useComparedRecipe, useHeldOther, wantedFor } from "./useCompared";
import { clipOf, MIDDLE, Wipe } from "./Wipe";

interface ComparedProps {
  view: LiveView;
  area: Size;
  margin: number;
}

/** Over the picture: what it is compared with, up to the wipe's line, and the figures of both. */
export function Compared(props: ComparedProps) {
  useHeldOther();
  const comparing = useBench((bench) => bench.comparing);
  if (comparing === "wipe") return <Wiped {...props} />;
  return comparing && <OwnFigures />;
}

/** What a second picture says of itself. */
export function useOther(view: LiveView, area: Size, margin: number, other: Bench["other"]) {
  const own = useBench((bench) => bench.recipe);
  const recipe = useComparedRecipe(other);
  const [reading, setReading] = useState<Reading | null>(null);
  const hear = useCallback(({ header, reading }: Told) => {
    const read = reading ?? header?.reading;
    if (read) setReading(read);
  }, []);
  const wanted = useMemo(() => wantedFor(other, recipe ?? own), [other, recipe, own]);
  const { canvas } = useLiveCanvas(wanted, view, area, margin, hear);
  return { canvas, reading: other.kind === "colour" ? null : reading, known: recipe !== null };
}
type Bench = Parameters<Parameters<typeof useBench>[0]>[0];

function Wiped({ view, area, margin }: ComparedProps) {
  const other = useBench((bench) => bench.other);
  const { canvas, reading, known } = useOther(view, area, margin, other);
  const [line, setLine] = useState(MIDDLE);
  const ratio = window.devicePixelRatio;
  const at = placeOf(view, view, area);
  const box = {
    left: margin + at.left / ratio,
    top: margin + at.top / ratio,
    width: at.width / ratio,
    height: at.height / ratio,
  };
  return (
    <>
      <div className="absolute" style={{ ...box, clipPath: clipOf(line, box) }}>
        <canvas
          ref={canvas}
          role="img"
          aria-label={`Compared: ${nameOf(other)}`}
          className="absolute"
          // it lies in the box, not in the pane
          style={{
            translate: `${-box.left}px ${-box.top}px`,
            visibility: known ? "visible" : "hidden",
          }}
        />
      </div>
      <Wipe line={line} box={box} onMove={setLine} />
      <div className="pointer-events-none absolute bottom-4 left-4">
        <Figures name={nameOf(other)} reading={reading} />
      </div>
      <OwnFigures />
    </>
  );
}

function OwnFigures() {
  const reading = useBench((bench) => bench.reading);
  return (
    <div className="pointer-events-none absolute right-4 bottom-4">
      <Figures name="this print" reading={reading} />
    </div>
  );
}
