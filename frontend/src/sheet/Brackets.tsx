import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Frame } from "../api/client";
import { Button } from "../parts/Button";
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
  const [left, setLeft] = useState<number[]>([]);
  const brackets = useQuery({
    queryKey: ["brackets", roll, frames],
    queryFn: () => api.brackets(roll),
  });
  const bracket = useFrames(brackets.data?.find((group) => !left.includes(group[0] ?? 0)) ?? NONE);
  if (bracket.length < 2) return null;
  return (
    <p role="status" className="mb-3 flex items-center gap-3 rounded bg-raise px-3 py-2 text-note">
      Frames {bracket[0]?.number} to {bracket.at(-1)?.number} look like a bracket.
      <Button onClick={() => onMerge(bracket)}>Merge them…</Button>
      <button
        type="button"
        className="text-faint hover:text-ink"
        onClick={() => setLeft([...left, bracket[0]?.id ?? 0])}
      >
        Leave them
      </button>
    </p>
  );
}
