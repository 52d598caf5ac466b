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
  /** The picture alone, as long as this is so. */
  hurry: boolean;
}

/** ms after which a reading comes with the next picture, where wishes follow each other without a
 * pause; after a pause it follows its picture. */
const READ_EVERY = 300;
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
  /** A reading that follows its picture. */
  reading?: (reading: Schemas["Reading"]) => void;
  problem: (problem: Problem) => void;
  connected: (yes: boolean) => void;
  /** A picture or its reading is on its way. */
  busy: (yes: boolean) => void;
}

/**
 * The socket to the darkroom. One wish is under way at a time; of those that come meanwhile only
 * the newest is kept. A picture comes first, its reading after it. It connects again by itself and repeats the last wish when it has.
 */
export class LiveSocket {
  private socket: WebSocket | null = null;
  private seq = 0;
  private wanted: Wanted | null = null;
  private waiting = false;
  private since = 0;
  private askedSince = 0;
  private underWay = false;
  private unreadSince = 0; // from when pictures have had no reading; 0: the last one has
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
    const wants = this.wants();
    if (this.socket?.readyState !== WebSocket.OPEN || this.underWay || !wants) return;
    if (wants !== "reading") {
      this.seq += 1;
      this.waiting = false;
      this.askedSince = this.since;
    }
    this.underWay = true;
    this.listener.busy(true);
    const { recipe, hurry: _, ...rest } = this.wanted as Wanted;
    this.socket.send(JSON.stringify({ seq: this.seq, wants, ...rest, ...sending(recipe) }));
  }

  /** What to ask for next, if anything. */
  private wants(): Schemas["LiveRequest"]["wants"] | null {
    const unread = this.unreadSince > 0 && !this.wanted?.hurry;
    if (!this.waiting) return unread ? "reading" : null;
    return unread && performance.now() - this.unreadSince > READ_EVERY ? "all" : "picture";
  }

  private goOn() {
    this.send();
    if (!this.underWay) window.setTimeout(() => this.listener.busy(this.underWay));
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
    if (typeof data === "string") {
      const body = JSON.parse(data);
      this.unreadSince = 0; // or nothing can be read
      this.goOn();
      if (body.reading) this.listener.reading?.(body.reading);
      else this.listener.problem(new Problem(body.title, body.detail, body.status));
      return;
    }
    const length = new DataView(data).getUint32(0, true);
    const header = this.whole(
      JSON.parse(new TextDecoder().decode(new Uint8Array(data, 4, length))),
    );
    if (header.reading) this.unreadSince = 0;
    else this.unreadSince ||= performance.now();
    this.goOn();
    this.listener.picture({ header, pixels: new Uint8Array(data, 4 + length) });
    requestAnimationFrame(() => {
      if (this.seq % MEASURES_KEPT === 0) performance.clearMeasures(MEASURE);
      performance.measure(MEASURE, { start: since });
    });
  }
}
