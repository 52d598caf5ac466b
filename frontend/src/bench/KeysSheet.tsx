import { Dialog } from "radix-ui";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";

/** All keys of the Bench, by what they are for. */
const KEYS: { about: string; keys: [string, string][] }[] = [
  {
    about: "Looking",
    keys: [
      ["+ −", "one pixel to one; the whole picture"],
      ["P", "as large as a print of 40 cm at reading distance"],
      ["F", "the picture alone on the window"],
      ["T", "the tray folded away, and out"],
      ["V", "proof: on its paper, on a wall"],
      ["Z", "zone plate: in eleven flat tones"],
      ["C, held", "the capture in colour"],
      ["Space, held", "drag the picture about"],
    ],
  },
  {
    about: "Prints",
    keys: [
      ["L", "starting prints along the picture"],
      ["R", "ring-around"],
      ["N", "the next print of the frame"],
      ["Y", "history and proofs"],
      ["W", "wipe: what is compared behind a line"],
      ["K, held", "what is compared, alone"],
      ["Ctrl C, Ctrl V", "copy settings; put them on a print"],
      ["Ctrl Z, with Shift", "undo; redo"],
    ],
  },
  {
    about: "Metering and colour",
    keys: [
      ["M", "meter"],
      ["0 … 9", "place the chosen spot on that zone; 0 twice is X"],
      ["Delete", "remove the chosen spot"],
      ["H", "pull at hues on the picture"],
    ],
  },
  {
    about: "Printing map",
    keys: [
      ["D, B", "dodge, burn by strokes"],
      [", .", "smaller, larger brush; with Shift its step"],
      ["A, held", "where passes act"],
      ["S, held", "what they give in all, in stops"],
      ["O, held", "the chosen pass alone"],
      ["U, held", "without the printing map"],
    ],
  },
  {
    about: "Everywhere",
    keys: [
      ["Tab, arrows", "walk controls; move values (Shift: ten steps)"],
      ["Delete, on a slider", "back to where it began"],
      ["Enter", "take; press the pen down"],
      ["Esc", "leave what is being done"],
      ["/", "find a control"],
      ["?", "this sheet"],
    ],
  },
];

export function KeysSheet({ onClose }: { onClose: () => void }) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 z-30 max-h-[92vh] w-[860px] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <div className="mb-3 flex items-baseline justify-between">
            <Dialog.Title className="text-head font-semibold">Keys</Dialog.Title>
            <Button hint="Esc" onClick={onClose}>
              Close
            </Button>
          </div>
          <div className="columns-2 gap-8">
            {KEYS.map(({ about, keys }) => (
              <section key={about} className="mb-4 break-inside-avoid">
                <h2 className="mb-1 text-note font-medium text-soft">{about}</h2>
                <dl className="grid grid-cols-[128px_1fr] gap-y-1 text-[12.5px]">
                  {keys.map(([key, does]) => (
                    <div key={key} className="contents">
                      <dt className="text-amber">{key}</dt>
                      <dd>{does}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
