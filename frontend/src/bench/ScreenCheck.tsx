import { Dialog } from "radix-ui";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";

const DARK = [0, 1, 2, 3, 4, 6];
const LIGHT = [255, 254, 253, 252, 251, 249];

/** A wedge that shows whether this screen tells the ends of the scale apart. */
export function ScreenCheck({ onClose }: { onClose: () => void }) {
  const row = (numbers: number[], ground: number) => (
    <div className="flex gap-4 p-5" style={{ background: `rgb(${ground} ${ground} ${ground})` }}>
      {numbers.map((n) => (
        <div key={n} className="flex flex-col items-center gap-1">
          <div className="size-16" style={{ background: `rgb(${n} ${n} ${n})` }} />
          <span className="text-small" style={{ color: ground < 128 ? "#777" : "#888" }}>
            {n}
          </span>
        </div>
      ))}
    </div>
  );
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 w-[560px] -translate-x-1/2 -translate-y-1/2 rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="text-head font-semibold">Screen check</Dialog.Title>
          <p className="mt-1 mb-3 text-note text-soft">
            Can you tell 0 from 1 and 2, and 255 from 254 and 253? Each square stands on the end of
            the scale. If you cannot, the room is too bright or the screen too hard, and what looks
            black or white here may hold tones in the print.
          </p>
          {row(DARK, 0)}
          {row(LIGHT, 255)}
          <div className="mt-4 flex justify-end">
            <Button onClick={onClose}>Close</Button>
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
