import { useEffect, useRef } from "react";
import { useLocation } from "wouter";
import { Notable } from "../parts/Notice";
import { copyPrint } from "../recipes/copied";
import { type Bench, type Peek, useBenchStore } from "../state/bench";
import { nextOf } from "./prints/PrintsMenu";
import { spotsOf, useSpotActions } from "./spots";
import { STATIONS } from "./stations";
import { zoneByKey } from "./tags";

const typing = (target: EventTarget | null) =>
  target instanceof HTMLSelectElement ||
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLInputElement && target.type !== "checkbox");

/** Sizes and steps go on while their key is held. */
const REPEATED = [",", ".", "<", ">", ";", ":"];

/** What is looked at while a key is held. */
const HELD: Record<string, Peek> = {
  c: "colour",
  u: "base",
  o: "alone",
  a: "areas",
  s: "heat",
  k: "other",
};

/** Ring-arounds, whose keys are their own. */
const AROUND: Bench["dialog"][] = ["ring", "apart", "starts"];

/** Keys of the whole Bench, by what they show or take in hand. */
const KEYS: Record<string, (bench: Bench) => Partial<Bench> | null> = {
  m: ({ tool, take }) => {
    take(tool.kind === "meter" ? { kind: "look" } : { kind: "meter" });
    return null;
  },
  enter: ({ tool, take }) => {
    if (tool.kind === "crop") take({ kind: "look" });
    return null;
  },
  escape: ({ leave }) => {
    leave();
    return null;
  },
  ...Object.fromEntries(Object.entries(HELD).map(([key, peek]) => [key, () => ({ peek })])),
  z: ({ shown }) => ({ shown: { kind: shown.kind === "plate" ? "print" : "plate" } }),
  v: ({ shown }) => ({ shown: { kind: shown.kind === "proof" ? "print" : "proof" } }),
  p: ({ zoom }) => ({ zoom: zoom === "reading" ? "fit" : "reading" }),
  r: () => ({ dialog: "ring" }),
  t: ({ tray }) => ({ tray: !tray, history: false }),
  f: ({ alone }) => ({ alone: !alone, along: null }),
  "/": () => ({ dialog: "find" }),
  "?": () => ({ dialog: "keys" }),
  w: ({ comparing }) => ({ comparing: comparing === "wipe" ? null : "wipe" }),
  y: ({ history }) => ({ history: !history, trial: null }),
  l: ({ along }) => ({ along: along === "starting" ? null : "starting", trial: null }),
  "+": () => ({ zoom: "full" }),
  "-": () => ({ zoom: "fit" }),
};

const STATION_KEYS = Object.assign({}, ...STATIONS.map((station) => station.keys ?? {}));

export function useBenchKeys() {
  const store = useBenchStore();
  const [, open] = useLocation();
  const { put, remove } = useSpotActions();
  /** The spot that the last thing done put on Zone 0: a second 0 makes it X. */
  const zeroed = useRef<string | null>(null);
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const bench = store.getState();
      const last = zeroed.current;
      zeroed.current = null;
      if (bench.dialog && AROUND.includes(bench.dialog)) return;
      const key = event.key.toLowerCase();
      if ((event.ctrlKey || event.metaKey) && key === "z") {
        event.preventDefault();
        if (event.shiftKey) bench.redo();
        else bench.undo();
        return;
      }
      const nothingMarked = !typing(event.target) && !String(window.getSelection() ?? "");
      if ((event.ctrlKey || event.metaKey) && nothingMarked && (key === "c" || key === "v")) {
        event.preventDefault();
        if (key === "v") store.setState({ dialog: "apply" });
        else bench.tell(new Notable("Copied", copyPrint(bench.print)));
        return;
      }
      // no choice of a list begins so
      const seeks = key === "/" && event.target instanceof HTMLSelectElement;
      if (typing(event.target) && !seeks) return;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const chosen = spotsOf(bench).find((s) => s.letter === bench.selected);
      // spots were read under a placement that may lag behind
      if (chosen && /^\d$/.test(key)) {
        const again = key === "0" && last === chosen.letter;
        if (key === "0" && !again) zeroed.current = chosen.letter;
        const zone = zoneByKey(key, chosen.zone, again);
        if (zone !== null) put(chosen, bench.reading?.placement ?? 0, zone);
      }
      if (chosen && key === "delete" && !event.defaultPrevented) remove(chosen.letter);
      // a menu or a dialog was left with it
      if (key === "escape" && event.defaultPrevented) return;
      if (event.repeat && !REPEATED.includes(key)) return;
      const print = key === "n" ? nextOf(bench.frame.prints, bench.print.id) : null;
      if (print !== null) open(`/print/${print}`);
      const next = KEYS[key]?.(bench);
      if (next?.dialog === "find") event.preventDefault(); // or it would be typed
      if (next) store.setState(next);
      STATION_KEYS[key]?.(bench);
    };
    const away = () => {
      const { peek } = store.getState();
      if (peek && Object.values(HELD).includes(peek)) store.setState({ peek: null });
    };
    const pressed = () => {
      zeroed.current = null;
    };
    const up = (event: KeyboardEvent) => event.key.toLowerCase() in HELD && away();
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", away);
    window.addEventListener("pointerdown", pressed);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", away);
      window.removeEventListener("pointerdown", pressed);
    };
  }, [store, put, remove, open]);
}
