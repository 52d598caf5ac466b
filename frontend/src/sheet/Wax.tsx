import type { Mark } from "../api/client";

const RING = "M12 8C38 -3 82 -1 94 16C103 36 92 62 58 65C26 68 1 56 4 30C6 14 20 5 40 3";
const CROSS = "M14 8C40 26 66 46 90 60M88 6C62 24 36 44 12 61";

/** A mark in grease pencil over a whole frame. */
export function Wax({ mark }: { mark: Mark }) {
  if (mark === "none") return null;
  if (mark === "dot") {
    return <span className="absolute top-2 right-2 size-5 rounded-full bg-wax opacity-90" />;
  }
  return (
    <svg
      viewBox="0 0 100 66"
      preserveAspectRatio="none"
      aria-hidden="true"
      className="pointer-events-none absolute inset-0 size-full overflow-visible"
    >
      <path
        d={mark === "ring" ? RING : CROSS}
        fill="none"
        stroke="#e9e4d8"
        strokeWidth="3.4"
        strokeLinecap="round"
        opacity=".92"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}

/** The same marks as small pictures for buttons. */
export function WaxIcon({ mark }: { mark: Mark }) {
  return (
    <svg viewBox="0 0 16 16" aria-hidden="true" className="size-3.5">
      {mark === "dot" ? (
        <circle cx="8" cy="8" r="3" fill="currentColor" />
      ) : (
        <path
          d={
            mark === "ring"
              ? "M4 3.5C7 1.5 12 2 14 5.5C15.5 9 12.5 13.5 8 13.5C3.5 13.5 1 10 2.5 6.5C3.5 4.5 6 3 8.5 2.5"
              : "M3 3C6 6 10 10 13 13M13 3C10 6 6 10 3 13"
          }
          fill="none"
          stroke="currentColor"
          strokeWidth="1.6"
          strokeLinecap="round"
        />
      )}
    </svg>
  );
}
