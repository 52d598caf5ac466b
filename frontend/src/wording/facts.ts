import type { Frame } from "../api/client";
import { shutter } from "./format";

/** How a frame was exposed, as far as its file says: time, f-number, sensitivity, focal length. */
export function exposureFacts(metadata: Frame["metadata"]): string[] {
  return [
    metadata.shutter ? shutter(metadata.shutter) : null,
    metadata.aperture ? `f/${Number(metadata.aperture.toFixed(1))}` : null,
    metadata.sensitivity ? `ISO ${metadata.sensitivity}` : null,
    metadata.focal_length ? `${Math.round(metadata.focal_length)} mm` : null,
  ].filter((fact) => fact !== null);
}

/** A stretch of time to wait, e.g. "3 min", "40 s". */
export function timeLeft(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  const minutes = seconds / 60;
  return minutes < 90 ? `${Math.round(minutes)} min` : `${(minutes / 60).toFixed(1)} h`;
}
