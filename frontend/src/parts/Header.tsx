import type { ReactNode } from "react";
import { Link } from "wouter";
import { DryingFold } from "../drying/DryingFold";

export function Header({ children, actions }: { children: ReactNode; actions: ReactNode }) {
  return (
    <header className="flex h-10 shrink-0 items-center gap-3.5 border-b border-black px-3.5">
      <Link
        href="/"
        className="shrink-0 text-[15px] font-[640] tracking-[.02em] [font-stretch:118%]"
      >
        Silvrin
      </Link>
      <div className="flex min-w-0 items-center gap-4 text-soft">{children}</div>
      <span className="ml-auto" />
      <DryingFold />
      <Link href="/shelf" className=" shrink-0 text-[12.5px] text-soft hover:text-ink">
        Shelf
      </Link>
      <div className="flex shrink-0 items-center gap-1.5">{actions}</div>
    </header>
  );
}
