import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useReducer } from "react";
import { api, Problem, sendCapture } from "../api/client";

export type Stage = "waiting" | "sending" | "reading" | "done" | "known" | "print" | "refused";

export const ENDED: readonly Stage[] = ["done", "known", "print", "refused"];

export interface Import {
  id: number;
  name: string;
  stage: Stage;
  share: number;
  reason?: string;
  /** A delivered print whose capture is not here: the file itself can be taken in. */
  delivered?: File;
}

type Action =
  | { type: "add"; items: Import[] }
  | { type: "change"; id: number; to: Partial<Import> }
  | { type: "clear" };

function reduce(list: Import[], action: Action): Import[] {
  switch (action.type) {
    case "add":
      return [...list, ...action.items];
    case "change":
      return list.map((item) => (item.id === action.id ? { ...item, ...action.to } : item));
    case "clear":
      return list.filter((item) => !ENDED.includes(item.stage));
  }
}

const DELIVERED = "A delivered print";
const AT_ONCE = 2;
let nextId = 1;

/** Takes files in, two at a time, and tells how each fares. */
export function useImports(
  rollId: number | null,
  onRoll: (roll: number) => void,
  onPrint: (print: number) => void,
) {
  const [items, dispatch] = useReducer(reduce, []);
  const queries = useQueryClient();

  const take = useCallback(
    async (files: File[], asPicture = false) => {
      if (files.length === 0) return;
      let roll = rollId;
      if (roll === null) {
        const today = new Date().toLocaleDateString("en-GB", { dateStyle: "long" });
        roll = (await api.makeRoll(today)).id;
        await queries.invalidateQueries({ queryKey: ["rolls"] });
        onRoll(roll);
      }
      const added = files.map((file) => ({
        item: { id: nextId++, name: file.name, stage: "waiting" as Stage, share: 0 },
        file,
      }));
      dispatch({ type: "add", items: added.map(({ item }) => item) });
      const queue = [...added];
      const target = roll;
      const work = async () => {
        for (let next = queue.shift(); next; next = queue.shift()) {
          const { id } = next.item;
          const change = (to: Partial<Import>) => dispatch({ type: "change", id, to });
          change({ stage: "sending" });
          try {
            const { known, print } = await sendCapture(
              target,
              next.file,
              (share) => change({ share, stage: share < 1 ? "sending" : "reading" }),
              asPicture,
            );
            change({ stage: print !== null ? "print" : known ? "known" : "done", share: 1 });
            if (print !== null && files.length === 1) onPrint(print);
            queries.invalidateQueries({ queryKey: ["frames", "sheet", target] });
          } catch (error) {
            change({
              stage: "refused",
              reason: error instanceof Problem ? error.message : String(error),
              delivered:
                error instanceof Problem && error.title === DELIVERED ? next.file : undefined,
            });
          }
        }
      };
      await Promise.all(Array.from({ length: AT_ONCE }, work));
      queries.invalidateQueries({ queryKey: ["rolls"] });
    },
    [rollId, onRoll, onPrint, queries],
  );

  const takeAsPicture = ({ id, delivered }: Import) => {
    if (!delivered) return;
    dispatch({ type: "change", id, to: { delivered: undefined } });
    return take([delivered], true);
  };
  return { items, take, takeAsPicture, clear: () => dispatch({ type: "clear" }) };
}

/** Every file of what was dropped, folders opened. */
export async function droppedFiles(data: DataTransfer): Promise<File[]> {
  const entries = [...data.items].map((item) => item.webkitGetAsEntry()).filter((e) => e !== null);
  if (entries.length === 0) return [...data.files];
  const files: File[] = [];
  const walk = async (entry: FileSystemEntry): Promise<void> => {
    if (entry.isFile) {
      files.push(await new Promise<File>((ok, no) => (entry as FileSystemFileEntry).file(ok, no)));
      return;
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader();
    for (;;) {
      const some = await new Promise<FileSystemEntry[]>((ok, no) => reader.readEntries(ok, no));
      if (some.length === 0) return;
      for (const inner of some) await walk(inner);
    }
  };
  for (const entry of entries) await walk(entry);
  return files
    .filter((file) => !file.name.startsWith("."))
    .sort((a, b) => a.name.localeCompare(b.name));
}
