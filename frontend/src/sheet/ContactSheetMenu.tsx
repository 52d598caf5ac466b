import { useState } from "react";
import type { Mark } from "../api/client";
import { Choice, NumberInput } from "../parts/Field";
import { Menu } from "../parts/Menu";
import { PAPERS } from "../parts/papers";

const MARKED: { value: Mark | "all"; text: string }[] = [
  { value: "all", text: "All frames" },
  { value: "ring", text: "Ringed" },
  { value: "dot", text: "Dotted" },
  { value: "none", text: "Without a mark" },
];

/** The roll as a contact sheet to print. */
export function ContactSheetMenu({ roll }: { roll: number }) {
  const [open, setOpen] = useState(false);
  const [paper, setPaper] = useState<(typeof PAPERS)[number]["value"]>("a4");
  const [columns, setColumns] = useState(6);
  const [only, setOnly] = useState<Mark | "all">("all");
  const asked = new URLSearchParams({
    paper,
    columns: String(columns),
    ...(only !== "all" && { only }),
  });
  const link = "rounded bg-raise px-2.5 py-1 hover:bg-lift";
  return (
    <Menu
      label="Contact sheet to print"
      align="start"
      open={open}
      onOpen={setOpen}
      className="w-64"
      opens={
        <button
          type="button"
          title="The roll as a page to print, with numbers and marks"
          className="text-note text-faint whitespace-nowrap hover:text-ink"
        >
          Print the sheet…
        </button>
      }
    >
      <div className="flex flex-col gap-2">
        <Choice label="Frames" value={only} options={MARKED} onPick={setOnly} />
        <div className="flex items-center gap-2">
          <Choice label="Paper" value={paper} options={PAPERS} onPick={setPaper} />
          <NumberInput
            label="Columns"
            range={[2, 12]}
            value={columns}
            unit="columns"
            className="w-14"
            onValue={(next) => setColumns(Math.round(next))}
          />
        </div>
        <div className="flex gap-2">
          <a className={link} href={`/api/rolls/${roll}/contact-sheet.pdf?${asked}`} download>
            PDF
          </a>
          <a className={link} href={`/api/rolls/${roll}/contact-sheet.jpg?${asked}`} download>
            Picture of the first page
          </a>
        </div>
      </div>
    </Menu>
  );
}
