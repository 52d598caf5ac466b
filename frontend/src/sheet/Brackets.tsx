import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Frame } from "../api/client";
import { Button } from "../parts/Button";

interface BracketsProps {
  roll: number;
  frames: Frame[];
  onMerge: (frames: Frame[]) => void;
}

/** Offers to merge frames that look like a bracket. */
export function Brackets({ roll, frames, onMerge }: BracketsProps) {
  const [left, setLeft] = useState<number[]>([]);
  const brackets = useQuery({
    queryKey: ["brackets", roll, frames.length],
    queryFn: () => api.brackets(roll),
  });
  const merged = frames.filter((frame) => frame.kind === "merged").map((frame) => frame.title);
  const bracket = brackets.data
    ?.map((ids) => ids.flatMap((id) => frames.find((frame) => frame.id === id) ?? []))
    .find(
      (group) =>
        group.length > 1 &&
        !left.includes(group[0]?.id ?? 0) &&
        !group.some((frame) => merged.includes(`${frame.title}, merged`)),
    );
  if (!bracket) return null;
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
