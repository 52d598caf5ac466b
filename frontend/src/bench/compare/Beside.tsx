import { useMemo, useRef } from "react";
import { type Compared, sizeOf, useBench } from "../../state/bench";
import { useArea } from "../picture/PictureView";
import { viewOf } from "../places";
import { useOther } from "./Compared";
import { Figures } from "./Figures";
import { nameOf } from "./useCompared";

const MARGIN = 12;

/** Something the print is compared with, in a pane of its own, on the same view. */
export function Beside({ other }: { other: Compared }) {
  const holder = useRef<HTMLElement>(null);
  const area = useArea(holder, MARGIN);
  const { zoom, centre, surround } = useBench(({ zoom, centre, surround }) => ({
    zoom,
    centre,
    surround,
  }));
  const size = useBench(sizeOf);
  const view = useMemo(() => area && viewOf(size, area, zoom, centre), [size, area, zoom, centre]);
  return (
    <section
      ref={holder}
      aria-label={`Beside: ${nameOf(other)}`}
      className="relative min-h-0 min-w-0 overflow-hidden"
      style={{ background: { dark: "#1c1c1c", grey: "#3b3b3b", white: "#f4f4f4" }[surround] }}
    >
      {view && area && <Picture other={other} view={view} area={area} />}
    </section>
  );
}

type Given = {
  other: Compared;
  view: Parameters<typeof useOther>[0];
  area: Parameters<typeof useOther>[1];
};

function Picture({ other, view, area }: Given) {
  const { canvas, reading, known } = useOther(view, area, MARGIN, other);
  return (
    <>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Compared: ${nameOf(other)}`}
        className="absolute"
        style={{ visibility: known ? "visible" : "hidden" }}
      />
      <div className="pointer-events-none absolute right-4 bottom-4">
        <Figures name={nameOf(other)} reading={reading} />
      </div>
    </>
  );
}
