import { useQuery } from "@tanstack/react-query";
import { useLocation } from "wouter";
import { api, type ContactSheet, type Mark, type Roll } from "../api/client";
import { FolderImports } from "./FolderImports";
import { ImportList } from "./ImportList";
import type { useImports } from "./imports";
import { Merges } from "./Merges";
import { marked } from "./order";
import { RollList, SideRow } from "./RollList";
import type { useSheet } from "./useSheet";

const SHOWN_MARKS: { mark: Mark; text: string }[] = [
  { mark: "ring", text: "Ringed" },
  { mark: "dot", text: "Dotted" },
  { mark: "cross", text: "Crossed" },
];

interface SideProps {
  sheet: ReturnType<typeof useSheet>;
  rolls: Roll[];
  current: number | null;
  /** The whole roll. */
  all: ContactSheet;
  /** The mark that frames must have to be shown. */
  only: Mark | null;
  onOnly: (mark: Mark | null) => void;
  /** Whether files are dragged over the window. */
  over: boolean;
  imports: ReturnType<typeof useImports>;
  onFiles: () => void;
  onFolder: () => void;
}

/** Rolls and marks, ways to take captures in, and what is being taken in. */
export function SheetSide(props: SideProps) {
  const { sheet, rolls, current, all, only, onOnly, over, imports, onFiles, onFolder } = props;
  const [, go] = useLocation();
  const bin = useQuery({ queryKey: ["bin"], queryFn: api.binned });
  return (
    <aside className="flex min-h-0 flex-col overflow-y-auto border-r border-black bg-panel p-3.5">
      <div className="mb-2 flex items-baseline justify-between text-note">
        <h2 className="font-medium text-soft">Rolls</h2>
        <button
          type="button"
          className="text-faint hover:text-ink"
          onClick={() => sheet.newRoll.mutate(`Roll ${rolls.length + 1}`)}
        >
          New roll
        </button>
      </div>
      <RollList
        rolls={rolls}
        current={current}
        onOpen={(id) => go(`/roll/${id}`)}
        onFrames={(to, ids) => sheet.move.mutate({ ids, roll: to })}
      />
      {all.frames.length > 0 && (
        <>
          <h2 className="mt-5 mb-2 text-note font-medium text-soft">Marks</h2>
          {SHOWN_MARKS.map((row) => (
            <SideRow
              key={row.mark}
              on={only === row.mark}
              count={marked(all, row.mark)}
              onClick={() => onOnly(only === row.mark ? null : row.mark)}
            >
              {row.text}
            </SideRow>
          ))}
        </>
      )}
      <div
        className={`mt-4 rounded-md border border-dashed px-3 py-3 text-center text-[12.5px] text-soft ${
          over ? "border-amber bg-raise" : "border-[#4f4f4f]"
        }`}
      >
        Drop captures or folders here,
        <br />
        <button type="button" className="underline hover:text-ink" onClick={onFiles}>
          choose files
        </button>{" "}
        or{" "}
        <button type="button" className="underline hover:text-ink" onClick={onFolder}>
          take in a folder
        </button>
      </div>
      <ImportList
        items={imports.items}
        onClear={imports.clear}
        onAsPicture={imports.takeAsPicture}
      />
      <FolderImports />
      <Merges />
      {(bin.data?.length ?? 0) > 0 && (
        <div className="mt-auto pt-4">
          <SideRow on={false} count={bin.data?.length ?? 0} onClick={() => go("/bin")}>
            Bin
          </SideRow>
        </div>
      )}
    </aside>
  );
}
