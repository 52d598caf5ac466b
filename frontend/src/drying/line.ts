import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import type { DryingLine } from "../api/types";

/** How things stand on the line; news keep it as it is. */
export function useLine(): DryingLine | undefined {
  return useQuery({
    queryKey: ["line"],
    queryFn: () => api.dryingLine().then(({ line }) => line),
    staleTime: Infinity,
  }).data;
}

/** A time that is left, in words. */
export function left(seconds: number | null): string {
  if (seconds === null) return "";
  if (seconds < 60) return `${Math.max(1, Math.round(seconds))} s left`;
  const minutes = Math.round(seconds / 60);
  return minutes < 60
    ? `${minutes} min left`
    : `${Math.floor(minutes / 60)} h ${minutes % 60} min left`;
}

/** How the line stands, in a few words; nothing where it is still. */
export function standing(line: DryingLine): string {
  const open = line.waiting + line.running;
  const failed = line.failed ? `${line.failed} failed` : "";
  if (open === 0) return failed;
  return [`${open} to go`, left(line.seconds_left), failed].filter(Boolean).join(", ");
}
