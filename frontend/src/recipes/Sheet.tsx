import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { DialogContent } from "../parts/DialogContent";

/** A dialog about recipes: a title, what it is about, and what it ends with. */
export function Sheet(props: {
  title: string;
  about: string;
  wrong?: Error | null;
  children: ReactNode;
  buttons: ReactNode;
  onClose: () => void;
}) {
  const { title, about, wrong, children, buttons, onClose } = props;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 z-30 flex max-h-[88vh] w-[600px] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="text-head font-semibold">{title}</Dialog.Title>
          <p className="mb-3 text-note text-soft">{about}</p>
          <div className="min-h-0 overflow-y-auto">{children}</div>
          {wrong && (
            <p role="alert" className="mt-2 text-note text-loss">
              {wrong.message}
            </p>
          )}
          <div className="mt-4 flex justify-end gap-2">{buttons}</div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
