import { Dialog } from "radix-ui";
import { type ComponentProps, useRef } from "react";

/** What a dialog holds. When it ends, the focus goes back to where it was. */
export function DialogContent(props: ComponentProps<typeof Dialog.Content>) {
  const before = useRef<Element | null>(null);
  return (
    <Dialog.Content
      aria-describedby={undefined}
      onOpenAutoFocus={() => {
        before.current = document.activeElement;
      }}
      onCloseAutoFocus={(event) => {
        event.preventDefault();
        if (before.current instanceof HTMLElement) before.current.focus();
      }}
      {...props}
    />
  );
}
