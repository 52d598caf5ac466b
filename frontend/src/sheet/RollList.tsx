import { type ReactNode, useState } from "react";
import type { Roll } from "../api/client";
import { DRAGGED } from "./FrameCard";

interface RollListProps {
  rolls: Roll[];
  current: number | null;
  onOpen: (id: number) => void;
  /** Frames that were dragged onto a roll. */
  onFrames: (roll: number, frames: number[]) => void;
}

/** The rolls; frames can be dragged onto another one. */
export function RollList({ rolls, current, onOpen, onFrames }: RollListProps) {
  const [over, setOver] = useState<number | null>(null);
  return (
    <nav aria-label="Rolls" className="max-h-[40%] shrink-0 overflow-y-auto">
      {rolls.map((roll) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: what is dropped can be moved by the bar too
        <div
          key={roll.id}
          className={over === roll.id ? "rounded outline outline-amber -outline-offset-1" : ""}
          onDragOver={(event) => {
            if (!event.dataTransfer.types.includes(DRAGGED)) return;
            event.preventDefault();
            event.stopPropagation();
            setOver(roll.id);
          }}
          onDragLeave={() => setOver(null)}
          onDrop={(event) => {
            const frames = event.dataTransfer.getData(DRAGGED);
            setOver(null);
            if (!frames) return;
            event.preventDefault();
            event.stopPropagation();
            onFrames(roll.id, JSON.parse(frames));
          }}
        >
          <SideRow on={roll.id === current} count={roll.frames} onClick={() => onOpen(roll.id)}>
            {roll.name}
          </SideRow>
        </div>
      ))}
      {rolls.length === 0 && (
        <p className="px-2 text-note text-faint">No roll yet. Dropped captures make one.</p>
      )}
    </nav>
  );
}

interface SideRowProps {
  on: boolean;
  count: number;
  onClick: () => void;
  children: ReactNode;
}

export function SideRow({ on, count, onClick, children }: SideRowProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`flex w-full justify-between gap-2 rounded px-2.5 py-[7px] text-left ${
        on ? "bg-raise text-ink" : "text-soft hover:text-ink"
      }`}
    >
      <span className="truncate">{children}</span>
      <span className="text-note text-faint">{count}</span>
    </button>
  );
}
