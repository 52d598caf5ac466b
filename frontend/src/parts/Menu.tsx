import { Popover } from "radix-ui";
import type { ReactElement, ReactNode } from "react";

/** What opens below a button, until it is left. */
export function Menu(props: {
  label: string;
  opens: ReactElement;
  open: boolean;
  onOpen: (open: boolean) => void;
  align: "start" | "end";
  /** Width and the like. */
  className: string;
  children: ReactNode;
}) {
  const { label, opens, open, onOpen, align, className, children } = props;
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger asChild>{opens}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={label}
          align={align}
          sideOffset={6}
          className={`z-30 rounded-md border border-black bg-panel p-2 text-[12.5px] shadow-[0_8px_40px_#000c] ${className}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
