import type { KeyboardEvent } from "react";

const STEPS: Record<string, (at: number, many: number) => number> = {
  ArrowRight: (at, many) => (at + 1) % many,
  ArrowDown: (at, many) => (at + 1) % many,
  ArrowLeft: (at, many) => (at - 1 + many) % many,
  ArrowUp: (at, many) => (at - 1 + many) % many,
  Home: () => 0,
  End: (_, many) => many - 1,
};

/** Arrow keys in a row of choices that is one stop of the Tab key: the next one gets the focus and
 * is taken. To be given to what holds the row; `role` is that of the choices. */
export function roving(role: "tab" | "radio") {
  return (event: KeyboardEvent<HTMLElement>) => {
    const step = STEPS[event.key];
    if (!step || event.ctrlKey || event.metaKey || event.altKey) return;
    const all = [...event.currentTarget.querySelectorAll<HTMLElement>(`[role=${role}]`)].filter(
      (each) => !each.hasAttribute("disabled"),
    );
    const at = all.indexOf(event.target as HTMLElement);
    const next = at < 0 ? undefined : all[step(at, all.length)];
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    next.focus();
    next.click();
  };
}
