import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";
import { DialogContent } from "./DialogContent";

interface QuestionProps {
  title: string;
  children: ReactNode;
  /** What the button says that does it. */
  does: string;
  busy?: boolean;
  onDo: () => void;
  onLeave: () => void;
}

/** A plain question before something that cannot be taken back, or needs a word. */
export function Question({ title, children, does, busy, onDo, onLeave }: QuestionProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onLeave()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 z-30 w-[460px] -translate-x-1/2 -translate-y-1/2 rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <form
            onSubmit={(event) => {
              event.preventDefault();
              onDo();
            }}
          >
            <Dialog.Title className="text-head font-semibold">{title}</Dialog.Title>
            <div className="mt-2 text-note text-soft">{children}</div>
            <div className="mt-5 flex justify-end gap-2">
              <Button onClick={onLeave}>Leave</Button>
              <Button go type="submit" disabled={busy}>
                {does}
              </Button>
            </div>
          </form>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
