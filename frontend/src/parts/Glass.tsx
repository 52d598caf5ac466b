import { memo } from "react";
import { SPECTRUM, wavelengthColour } from "./spectrum";

/** A spectrum as a small strip: what a filter passes, what a film sees. */
export const Glass = memo(function Glass({ transmittance }: { transmittance: number[] }) {
  const step = 72 / 52;
  return (
    <svg
      viewBox="0 0 72 16"
      preserveAspectRatio="none"
      className="mt-1 block h-4 w-full wide:h-6"
      aria-hidden="true"
    >
      {SPECTRUM.slice(1).map((nm, i) => {
        const height = 16 * (transmittance[i + 1] ?? 0);
        return (
          <rect
            key={nm}
            x={i * step}
            y={16 - height}
            width={step + 0.3}
            height={height}
            fill={wavelengthColour(nm)}
          />
        );
      })}
    </svg>
  );
});
