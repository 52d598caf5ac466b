import { type LiveFrame, type LiveView, Problem, type Recipe } from "./client";

export interface LivePicture {
  header: LiveFrame;
  pixels: Uint8Array;
}

export interface Wanted {
  recipe: Recipe;
  view: LiveView;
  show: "print" | "colour";
}

interface Listener {
  picture: (picture: LivePicture) => void;
  problem: (problem: Problem) => void;
  connected: (yes: boolean) => void;
}

/**
 * The socket to the darkroom. Only the newest wish is sent, at most one each animation frame; it
 * connects again by itself and repeats the last wish when it has.
 */
export class LiveSocket {
  private socket: WebSocket | null = null;
  private seq = 0;
  private wanted: Wanted | null = null;
  private scheduled = 0;
  private retry = 0;
  private closed = false;
  private readonly asked = new Map<number, number>();
  private readonly frame: number;
  private readonly listener: Listener;

  constructor(frame: number, listener: Listener) {
    this.frame = frame;
    this.listener = listener;
    this.connect();
  }

  want(wanted: Wanted) {
    this.wanted = wanted;
    if (this.scheduled) return;
    const since = performance.now();
    this.scheduled = requestAnimationFrame(() => {
      this.scheduled = 0;
      this.send(since);
    });
  }

  close() {
    this.closed = true;
    cancelAnimationFrame(this.scheduled);
    window.clearTimeout(this.retry);
    this.socket?.close();
  }

  private connect() {
    const socket = new WebSocket(`ws://${location.host}/api/live/${this.frame}`);
    socket.binaryType = "arraybuffer";
    socket.onopen = () => {
      this.listener.connected(true);
      if (this.wanted) this.send(performance.now());
    };
    socket.onmessage = (event) => this.receive(event.data);
    socket.onclose = () => {
      if (this.closed) return;
      this.listener.connected(false);
      this.retry = window.setTimeout(() => this.connect(), 1000);
    };
    this.socket = socket;
  }

  private send(since: number) {
    if (this.socket?.readyState !== WebSocket.OPEN || !this.wanted) return;
    this.seq += 1;
    this.asked.set(this.seq, since);
    this.socket.send(JSON.stringify({ seq: this.seq, ...this.wanted }));
  }

  private receive(data: string | ArrayBuffer) {
    if (typeof data === "string") {
      const body = JSON.parse(data);
      this.listener.problem(new Problem(body.title, body.detail, body.status));
      return;
    }
    const length = new DataView(data).getUint32(0, true);
    const header: LiveFrame = JSON.parse(new TextDecoder().decode(new Uint8Array(data, 4, length)));
    this.listener.picture({ header, pixels: new Uint8Array(data, 4 + length) });
    const since = this.asked.get(header.seq);
    for (const seq of this.asked.keys()) if (seq <= header.seq) this.asked.delete(seq);
    if (since !== undefined) {
      requestAnimationFrame(() => performance.measure("input to picture", { start: since }));
    }
  }
}
