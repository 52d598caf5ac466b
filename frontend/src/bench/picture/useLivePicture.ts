import { useCallback, useEffect, useRef, useState } from "react";
import type { LiveFrame, LiveView, Problem, Reading, StripFacts } from "../../api/client";
import { type LivePicture, LiveSocket, type Wanted } from "../../api/live";
import { type Bench, isMounted, type Peek, useBench, useBenchStore } from "../../state/bench";
import { recipeShown } from "../../state/recipeShown";
import { placeOf, type Size } from "../places";

const ONLY: Peek[] = ["breaking", "unsure", "piled", "edges"];

/** As what the picture is asked for. A proof that is metered or compared is the print: what it is
 * mounted in has no place in the picture. */
function showOf(bench: Bench, colour: boolean, exposed: number | "projected" | null) {
  const { peek, shown } = bench;
  if (isMounted(bench)) {
    return shown.kind === "proof" || shown.kind === "press" ? shown.kind : "mounted";
  }
  if (colour) return "colour";
  if (peek === "clipped") return "clipped";
  if (shown.kind === "plate") return "plate";
  return exposed === "projected" ? "projected" : "print";
}

/** What of the Bench the server is asked for. */
const wantedOf = (bench: Bench): Omit<Wanted, "view"> => {
  const { peek, shown, side, other } = bench;
  const exposed = shown.kind === "timed" ? shown.exposed : null;
  const colour = peek === "colour" || (peek === "other" && other.kind === "colour");
  const show = showOf(bench, colour, exposed);
  return {
    recipe: recipeShown(bench),
    show,
    plate: side,
    exposed: exposed === "projected" ? null : exposed,
    strip: shown.kind === "strip" && !colour && peek !== "other" ? shown.strip : null,
    held: shown.kind === "held" ? shown.zones : null,
    only: peek && ONLY.includes(peek) ? (peek as Wanted["only"]) : null,
    hatched: peek === "areas" ? "all" : peek === "alone" ? null : bench.hatched,
    press: shown.kind === "press" ? shown.through : null,
    heat: peek === "heat",
    hurry: bench.drawing,
  };
};

/** The print's picture of a view as it comes, on a canvas that stands where the view does. */
export function useLivePicture(view: LiveView | null, area: Size | null, margin: number) {
  const store = useBenchStore();
  const wanted = useBench(wantedOf);
  const hear = useCallback(
    (told: Told) => {
      const bench = store.getState();
      if (told.header) bench.receive(told.header);
      if (told.reading) bench.read(told.reading);
      // what is only pointed at takes nothing back of the print
      if (told.problem && bench.trial) {
        store.setState({ trial: null });
        bench.tell(told.problem);
      } else if (told.problem) bench.refused(told.problem);
      if (told.connected !== undefined) store.setState({ connected: told.connected });
    },
    [store],
  );
  const { canvas, ready, laid } = useLiveCanvas(wanted, view, area, margin, hear);
  return { canvas, ready, laid: wanted.strip ? laid : null };
}

/** What comes of a picture that is asked for. */
export interface Told {
  header?: LiveFrame;
  reading?: Reading;
  problem?: Problem;
  connected?: boolean;
}

/** A picture of a view of the frame as it comes, on a canvas that stands where the view does. */
export function useLiveCanvas(
  wanted: Omit<Wanted, "view">,
  view: LiveView | null,
  area: Size | null,
  margin: number,
  hear: (told: Told) => void,
) {
  const frame = useBench((bench) => bench.frame.id);
  const canvas = useRef<HTMLCanvasElement>(null);
  const socket = useRef<LiveSocket | null>(null);
  const drawn = useRef<LivePicture | null>(null);
  const [ready, setReady] = useState(false);
  const [laid, setLaid] = useState<StripFacts | null>(null);
  const now = useRef({ view, area, margin });
  now.current = { view, area, margin };

  const place = useCallback(() => {
    const element = canvas.current;
    const { view: wants, area: room, margin: edge } = now.current;
    if (!element || !drawn.current || !wants || !room) return;
    const at = placeOf(drawn.current.header.view, wants, room);
    const ratio = window.devicePixelRatio;
    element.style.left = `${edge + at.left / ratio}px`;
    element.style.top = `${edge + at.top / ratio}px`;
    element.style.width = `${at.width / ratio}px`;
    element.style.height = `${at.height / ratio}px`;
  }, []);

  useEffect(() => {
    const live = new LiveSocket(frame, {
      picture: (picture) => {
        drawn.current = picture;
        if (canvas.current) draw(canvas.current, picture);
        place();
        setReady(true);
        setLaid(picture.header.strip);
        hear({ header: picture.header });
      },
      reading: (reading) => hear({ reading }),
      problem: (problem) => hear({ problem }),
      connected: (connected) => hear({ connected }),
      busy: (busy) => canvas.current?.setAttribute("aria-busy", String(busy)),
    });
    socket.current = live;
    return () => live.close();
  }, [frame, place, hear]);

  useEffect(() => {
    place();
    if (view) socket.current?.want({ ...wanted, view });
  }, [wanted, view, place]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it stands elsewhere in another room
  useEffect(place, [area, margin, place]);

  return { canvas, ready, laid };
}

function draw(canvas: HTMLCanvasElement, { header, pixels }: LivePicture) {
  const { width, height, channels } = header;
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  const context = canvas.getContext("2d", { alpha: false });
  if (!context) return;
  const image = context.createImageData(width, height);
  const out = new Uint32Array(image.data.buffer);
  if (channels === 1) {
    for (let i = 0; i < out.length; i++) out[i] = 0xff000000 | ((pixels[i] ?? 0) * 0x010101);
  } else {
    for (let i = 0, j = 0; i < out.length; i++, j += 3) {
      out[i] =
        0xff000000 | ((pixels[j + 2] ?? 0) << 16) | ((pixels[j + 1] ?? 0) << 8) | (pixels[j] ?? 0);
    }
  }
  context.putImageData(image, 0, 0);
}
