import { type RefObject, useEffect, useRef } from "react";
import { useBench, useBenchStore } from "../../state/bench";
import { BROUGHT_OUT_BY } from "./words";

const LIT_MS = 2600;
const FOCUSABLE =
  "[role=slider], [role=radio][tabindex='0'], input, select, button, [tabindex='0']";

/** Brings the control that was found into sight, gives it the focus and lights it for a while; where
 * it is not shown under these settings what brings it out, or all of the tray. */
export function useLit(tray: RefObject<HTMLElement | null>) {
  const store = useBenchStore();
  const lit = useBench((bench) => bench.lit);
  const ends = useRef(() => {});
  useEffect(() => {
    if (!lit || lit.startsWith("start.")) return;
    ends.current();
    const control = (id: string | undefined) =>
      id && tray.current?.querySelector<HTMLElement>(`[data-control~="${id}"]`);
    const element = control(lit) || control(BROUGHT_OUT_BY[lit]) || tray.current;
    store.setState({ lit: null });
    if (!element) return;
    element.scrollIntoView({ block: "nearest" });
    const inside = element === tray.current ? null : element.querySelector<HTMLElement>(FOCUSABLE);
    // once the dialog that it was found in holds the focus no longer
    window.setTimeout(() => (inside ?? element).focus({ preventScroll: true }));
    element.dataset.lit = "";
    const dim = () => {
      delete element.dataset.lit;
      window.clearTimeout(timer);
    };
    const timer = window.setTimeout(dim, LIT_MS);
    ends.current = dim;
  }, [lit, store, tray]);
}
