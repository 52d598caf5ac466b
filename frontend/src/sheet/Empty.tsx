import type { ReactNode } from "react";
import { Button } from "../parts/Button";

const ACCEPTED = "DNG, camera raw, TIFF, PNG or JPEG";

interface EmptyProps {
  over: boolean;
  onChoose: () => void;
  children: ReactNode;
}

/** Where there is no frame yet. */
export function Empty(props: EmptyProps) {
  return (
    <div
      className={`flex h-80 flex-col items-center justify-center gap-3 rounded-md border border-dashed ${
        props.over ? "border-amber bg-raise" : "border-[#4a4a4a]"
      }`}
    >
      <p className="text-head text-ink">{props.children}</p>
      <p className="text-soft">{ACCEPTED}. The files stay as they are; Silvrin keeps a copy.</p>
      <Button onClick={props.onChoose}>Choose files</Button>
    </div>
  );
}
