interface FoldProps {
  /** What is folded, e.g. "the light path". */
  what: string;
  folded: boolean;
  /** The way it folds. */
  to: "up" | "left";
  onFold: () => void;
  className?: string;
}

/** Folds a part of the window away, and out again. */
export function Fold({ what, folded, to, onFold, className = "" }: FoldProps) {
  const turned = { up: folded ? 180 : 0, left: folded ? 90 : -90 }[to];
  return (
    <button
      type="button"
      onClick={onFold}
      aria-expanded={!folded}
      aria-label={`${folded ? "Unfold" : "Fold"} ${what}`}
      className={`rounded px-1 text-faint hover:text-ink ${className}`}
    >
      <svg viewBox="0 0 10 10" className="w-2.5" aria-hidden="true">
        <path
          d="M1 7L5 3L9 7"
          fill="none"
          stroke="currentColor"
          transform={`rotate(${turned} 5 5)`}
        />
      </svg>
    </button>
  );
}
