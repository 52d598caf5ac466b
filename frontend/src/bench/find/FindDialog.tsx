import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useEffect, useMemo, useRef, useState } from "react";
import { useLocation } from "wouter";
import { api } from "../../api/client";
import { DialogContent } from "../../parts/DialogContent";
import { useBench, useBenchStore } from "../../state/bench";
import { fitting, type Place, placesOf } from "./places";

const SHOWN = 60;

/** Type a word, and go to what it means. */
export function FindDialog({ onClose }: { onClose: () => void }) {
  const store = useBenchStore();
  const [, open] = useLocation();
  const { schema, shelf, frame } = useBench(({ schema, shelf, frame }) => ({
    schema,
    shelf,
    frame,
  }));
  const starts = useQuery({ queryKey: ["starting-prints"], queryFn: api.startingPrints }).data;
  const recipes = useQuery({ queryKey: ["recipes"], queryFn: api.recipes }).data;
  const places = useMemo(
    () => placesOf({ schema, shelf, frame }, starts ?? [], recipes ?? []),
    [schema, shelf, frame, starts, recipes],
  );
  const [text, setText] = useState("");
  const [chosen, choose] = useState(0);
  const found = useMemo(() => fitting(places, text), [places, text]);
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.children[chosen]?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const go = (place: Place | undefined) => {
    if (!place) return;
    onClose();
    if (typeof place.go === "string") open(place.go);
    else {
      const next = place.go(store.getState());
      if (next) store.setState(next);
    }
  };
  const keyed = (event: React.KeyboardEvent) => {
    const last = Math.min(found.length, SHOWN) - 1;
    const to = { ArrowDown: chosen + 1, ArrowUp: chosen - 1 }[event.key];
    if (to !== undefined) choose(Math.min(Math.max(to, 0), Math.max(last, 0)));
    else if (event.key === "Enter") go(found[chosen]);
    else return;
    event.preventDefault();
  };
  const shown = found.slice(0, SHOWN);
  return (
    <Dialog.Root open onOpenChange={(on) => !on && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-[#0b0b0bb0]" />
        <DialogContent
          onCloseAutoFocus={(event) => event.preventDefault()}
          className="fixed top-[12vh] left-1/2 z-30 flex max-h-[76vh] w-[560px] -translate-x-1/2 flex-col rounded-lg bg-panel shadow-[0_12px_60px_#000c]"
        >
          <Dialog.Title className="sr-only">Find a control</Dialog.Title>
          <input
            type="search"
            role="combobox"
            aria-label="Find a control"
            aria-expanded={shown.length > 0}
            aria-controls="found"
            aria-activedescendant={shown[chosen] ? `found-${chosen}` : undefined}
            placeholder="Find a control: contrast, sky, grain…"
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              choose(0);
            }}
            onKeyDown={keyed}
            className="m-3 rounded-[3px] bg-well px-3 py-2 text-head text-ink placeholder:text-faint"
          />
          {text.trim() === "" ? (
            <p className="px-4 pb-4 text-note text-soft">
              Controls, tools, starting prints, recipes, films, filters and papers, by their names
              and by what else they are called. Enter goes there.
            </p>
          ) : shown.length === 0 ? (
            <p role="status" className="px-4 pb-4 text-note text-soft">
              Nothing is called so. Try a shorter or another word.
            </p>
          ) : (
            <div
              ref={list}
              id="found"
              role="listbox"
              aria-label="Found"
              className="min-h-0 overflow-y-auto px-2 pb-2"
            >
              {shown.map((place, i) => (
                <div
                  key={place.id}
                  id={`found-${i}`}
                  role="option"
                  tabIndex={-1}
                  aria-selected={i === chosen}
                  onPointerMove={() => choose(i)}
                  onClick={() => go(place)}
                  onKeyDown={keyed}
                  className={`flex cursor-pointer items-baseline justify-between gap-4 rounded-[3px] px-2 py-1.5 ${
                    i === chosen ? "bg-raise" : ""
                  }`}
                >
                  <span className="truncate">{place.title}</span>
                  <span className="shrink-0 text-note text-soft">{place.at}</span>
                </div>
              ))}
            </div>
          )}
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
