import { useState } from "react";
import type { Roll } from "../api/client";
import { ContactSheetMenu } from "./ContactSheetMenu";

interface RollTitleProps {
  roll: Roll | undefined;
  shown: number;
  onRename: (name: string) => void;
  onBin: () => void;
}

/** The name of the roll, which is changed by pressing it, and how much is on it. */
export function RollTitle({ roll, shown, onRename, onBin }: RollTitleProps) {
  const [name, setName] = useState<string | null>(null);
  if (!roll) return null;
  const end = () => {
    if (name?.trim() && name !== roll.name) onRename(name.trim());
    setName(null);
  };
  return (
    <>
      <h1 className="min-w-0 text-[18px] font-semibold">
        {name === null ? (
          <button
            type="button"
            title="Rename the roll"
            onClick={() => setName(roll.name)}
            className="max-w-full truncate rounded-[3px] text-left hover:bg-raise"
          >
            {roll.name}
          </button>
        ) : (
          <input
            aria-label="Name of the roll"
            // biome-ignore lint/a11y/noAutofocus: it was asked for by pressing the name
            autoFocus
            value={name}
            maxLength={120}
            onChange={(event) => setName(event.target.value)}
            onBlur={end}
            onKeyDown={(event) => {
              if (event.key === "Enter") end();
              if (event.key === "Escape") setName(null);
            }}
            className="w-72 rounded-[3px] bg-well px-1.5"
          />
        )}
      </h1>
      <span className="text-soft whitespace-nowrap">
        {shown !== roll.frames && `${shown} of `}
        {roll.frames} {roll.frames === 1 ? "frame" : "frames"}
        {roll.ringed > 0 && `, ${roll.ringed} ringed`}
      </span>
      <button
        type="button"
        title="Take the roll with its frames off the sheet; it can be put back"
        onClick={onBin}
        className="text-note text-faint whitespace-nowrap hover:text-ink"
      >
        Bin roll
      </button>
      {roll.frames > 0 && <ContactSheetMenu roll={roll.id} />}
    </>
  );
}
