import { Problem } from "./http";
import { sending } from "./recipe";
import type {
  HeldZones,
  LiveFrame,
  LiveView,
  Recipe,
  Schemas,
  Show,
  TestStrip,
  Through,
} from "./types";

export interface LivePicture {
  header: LiveFrame;
  pixels: Uint8Array;
}

export interface Wanted {
  recipe: Recipe;
  view: LiveView;
  show: Show;
  plate: Schemas["HeldZones"]["side"];
  /** Seconds the paper has had so far; null is all of them. */
  exposed: number | null;
  strip: TestStrip | null;
  held: HeldZones | null;
  /** Only what breaks up stands. */
  only: "breaking" | "unsure" | "piled" | "edges" | null;
  /** The area of a pass, or of all, under lines. */
  hatched: number | "all" | null;
  /** The profile through which a press is shown. */
  press: Through | null;
  /** What the printing map gives, as colours. */
  heat: boolean;
  /** The picture alone: its reading is not waited for. */
  hurry: boolean;
}

const MEASURE = "input to picture";
const MEASURES_KEPT = 1000;
let inputTime = 0;

/** A control was moved just now; the picture that follows from it is timed from here. */
export function noteInput() {
  inputTime = performance.now();
}

function takeInputTime(): number {
  const since = inputTime || performance.now();
  inputTime = 0;
  return since;
}

interface Listener {
  picture: (picture: LivePicture) => void;
  problem: (problem: Problem) => void;
  connected: (yes: boolean) => void;
  /** A picture is on its way. */
  busy: (yes: boolean) => void;
}

/**
 * The socket to the darkroom. One wish is under way at a time; of those that come meanwhile only
 * the newest is kept. It connects again by itself and repeats the last wish when it has.
 */
export class LiveSocket {
  private socket: WebSocket | null = null;
  private seq = 0;
  private wanted: Wanted | null = null;
  private waiting = false;
  private since = 0;
  private askedSince = 0;
  private underWay = false;
  private retry = 0;
  private closed = false;
  private curves: Record<string, object> = {};
  private readonly frame: number;
  private readonly listener: Listener;

  constructor(frame: number, listener: Listener) {
    this.frame = frame;
    this.listener = listener;
    this.connect();
  }

  want(wanted: Wanted) {
    this.wanted = wanted;
    if (!this.waiting) this.since = takeInputTime();
    this.waiting = true;
    this.send();
  }

  close() {
    this.closed = true;
    window.clearTimeout(this.retry);
    this.socket?.close();
  }

  private connect() {
    const socket = new WebSocket(`ws://${location.host}/api/live/${this.frame}`);
    socket.binaryType = "arraybuffer";
    socket.onopen = () => {
      this.listener.connected(true);
      this.underWay = false;
      this.curves = {};
      this.waiting = this.wanted !== null;
      this.send();
    };
    socket.onmessage = (event) => this.receive(event.data);
    socket.onclose = () => {
      if (this.closed) return;
      this.listener.connected(false);
      this.retry = window.setTimeout(() => this.connect(), 1000);
    };
    this.socket = socket;
  }

  private send() {
    if (this.socket?.readyState !== WebSocket.OPEN || this.underWay || !this.waiting) return;
    this.seq += 1;
    this.waiting = false;
    this.underWay = true;
    this.listener.busy(true);
    this.askedSince = this.since;
    const { recipe, ...rest } = this.wanted as Wanted;
    this.socket.send(JSON.stringify({ seq: this.seq, ...rest, ...sending(recipe) }));
  }

  /** The header with the curves that came before it where they did not change. */
  private whole({ curves, facts, ...rest }: Schemas["LiveFrame"]): LiveFrame {
    for (const [station, of] of Object.entries(curves)) {
      if (of) this.curves[station] = of;
    }
    return { ...rest, facts: Object.assign({}, facts, ...Object.values(this.curves)) };
  }

  private receive(data: string | ArrayBuffer) {
    this.underWay = false;
    const since = this.askedSince;
    this.send();
    if (!this.underWay) window.setTimeout(() => this.listener.busy(this.underWay));
    if (typeof data === "string") {
      const body = JSON.parse(data);
      this.listener.problem(new Problem(body.title, body.detail, body.status));
      return;
    }
    const length = new DataView(data).getUint32(0, true);
    const header = this.whole(
      JSON.parse(new TextDecoder().decode(new Uint8Array(data, 4, length))),
    );
    this.listener.picture({ header, pixels: new Uint8Array(data, 4 + length) });
    requestAnimationFrame(() => {
      if (this.seq % MEASURES_KEPT === 0) performance.clearMeasures(MEASURE);
      performance.measure(MEASURE, { start: since });
    });
  }
}
