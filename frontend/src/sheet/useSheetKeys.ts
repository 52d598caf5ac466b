import type { RefObject } from "react";
import type { Mark } from "../api/client";
import { MARK_KEYS } from "./FrameCard";
import type { Choice } from "./useChoice";

interface KeysProps {
  shown: number[];
  choice: Choice;
  /** How many frames stand in a row. */
  columns: RefObject<number>;
  /** A frame must come into sight. */
  onReveal: (frame: { id: number }) => void;
  /** To all that are chosen; away if all have it. */
  onMark: (mark: Mark) => void;
  onBin: () => void;
  onFacts: () => void;
  /** The settings of the chosen frame's print; and those, on all that are chosen. */
  onCopy: () => void;
  onPaste: () => void;
  onOpen: (id: number) => void;
}

/** Keys of the contact sheet: arrows walk, marks mark, F tells facts, Enter opens. */
export function useSheetKeys(props: KeysProps) {
  const { shown, choice, columns, onReveal, onMark, onBin, onFacts, onCopy, onPaste, onOpen } =
    props;
  const chosen = choice.at;
  return (event: React.KeyboardEvent) => {
    const { target } = event;
    if (target instanceof HTMLInputElement || target instanceof HTMLSelectElement) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a") {
      event.preventDefault();
      choice.chooseAll();
      return;
    }
    const unmarked = !String(window.getSelection() ?? "");
    if ((event.ctrlKey || event.metaKey) && unmarked) {
      const does = { c: onCopy, v: onPaste }[event.key.toLowerCase()];
      if (does) event.preventDefault();
      does?.();
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const place = chosen === null ? -1 : shown.indexOf(chosen);
    const moves: Record<string, number> = {
      ArrowLeft: -1,
      ArrowRight: 1,
      ArrowUp: -columns.current,
      ArrowDown: columns.current,
    };
    const to = MARK_KEYS[event.key];
    if (event.key in moves && shown.length) {
      event.preventDefault();
      const next = Math.min(Math.max(place + (moves[event.key] ?? 0), 0), shown.length - 1);
      const id = shown[next];
      if (id === undefined) return;
      choice.choose(id, event.shiftKey ? "range" : "one");
      onReveal({ id });
    } else if (to && choice.all.length > 0) {
      onMark(to);
    } else if (event.key === "Delete") {
      onBin();
    } else if (event.key.toLowerCase() === "f") {
      onFacts();
    } else if (event.key === "Enter" && (target as HTMLElement).dataset.frame) {
      event.preventDefault();
      onOpen(Number((target as HTMLElement).dataset.frame)); // the one in focus
    }
  };
}
