import type { ButtonHTMLAttributes } from "react";

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  go?: boolean;
  pressed?: boolean;
  hint?: string;
}

export function Button({ go, pressed, hint, className = "", children, ...rest }: ButtonProps) {
  const tone = go
    ? "bg-amber text-[#1a1206] font-semibold hover:bg-[#f0b264] disabled:opacity-40"
    : `${pressed ? "bg-lift text-amber" : "bg-raise text-ink"} hover:bg-lift disabled:text-[#6f6f6f] disabled:hover:bg-raise`;
  return (
    <button
      type="button"
      aria-pressed={pressed}
      className={`rounded px-2.5 py-1 text-[12.5px] whitespace-nowrap select-none ${tone} ${className}`}
      {...rest}
    >
      {children}
      {hint && <kbd className="ml-1.5 font-sans text-small text-faint">{hint}</kbd>}
    </button>
  );
}
