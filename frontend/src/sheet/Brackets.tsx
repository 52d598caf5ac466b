import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Frame } from "../api/client";
import { Button } from "../parts/Button";
import { useNotice } from "../parts/Notice";
import { useFrames } from "./useFrames";

const NONE: number[] = [];

interface BracketsProps {
  roll: number;
  /** How many frames are on it. */
  frames: number;
  onMerge: (frames: Frame[]) => void;
}

/** Offers to merge frames that look like a bracket. */
export function Brackets({ roll, frames, onMerge }: BracketsProps) {
  const queries = useQueryClient();
  const tell = useNotice();
  const brackets = useQuery({
    queryKey: ["brackets", roll, frames],
    queryFn: () => api.brackets(roll),
  });
  const bracket = useFrames(brackets.data?.[0] ?? NONE);
  const leave = useMutation({
    mutationFn: (ids: number[]) => api.leaveBracket(roll, ids),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["brackets", roll] }),
    onError: tell,
  });
  if (bracket.length < 2) return null;
  return (
    <p role="status" className="mb-3 flex items-center gap-3 rounded bg-raise px-3 py-2 text-note">
      Frames {bracket[0]?.number} to {bracket.at(-1)?.number} look like a bracket.
      <Button onClick={() => onMerge(bracket)}>Merge them…</Button>
      <button
        type="button"
        className="text-faint hover:text-ink"
        onClick={() => leave.mutate(bracket.map((frame) => frame.id))}
      >
        Leave them
      </button>
    </p>
  );
}
