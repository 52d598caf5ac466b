import { useMutation, useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api, type FolderImport, type Roll } from "../api/client";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";
import { Segments } from "../parts/Segments";

interface FolderPickerProps {
  /** The folder that is looked into; null is the user's own. */
  path: string | null;
  onPath: (path: string) => void;
}

/** Walks through the folders of this computer. */
export function FolderPicker({ path, onPath }: FolderPickerProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const view = useQuery({
    queryKey: ["folder", path],
    queryFn: () => api.folder(path),
    placeholderData: (before) => before,
    retry: false,
  });
  const here = view.data?.path ?? path ?? "";
  const go = (to: string) => {
    setTyped(null);
    onPath(to);
  };
  return (
    <>
      <div className="flex gap-1.5">
        <input
          aria-label="Folder"
          value={typed ?? here}
          spellCheck={false}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={() => typed && go(typed)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            if (typed) go(typed);
          }}
          className="min-w-0 flex-1 rounded-[3px] bg-well px-2 py-[5px] text-[12.5px]"
        />
        <Button
          disabled={!view.data?.parent}
          onClick={() => view.data?.parent && go(view.data.parent)}
        >
          Up
        </Button>
      </div>
      {view.error && (
        <p role="alert" className="mt-2 border-l-2 border-loss pl-3 text-note">
          {view.error.message}
        </p>
      )}
      <ul
        aria-label="Folders in it"
        className="mt-2 h-44 overflow-y-auto rounded-[3px] bg-well p-1"
      >
        {view.data?.folders.map((folder) => (
          <li key={folder.path}>
            <button
              type="button"
              onClick={() => go(folder.path)}
              className="w-full truncate rounded-[3px] px-2 py-1 text-left text-[12.5px] hover:bg-lift"
            >
              {folder.name}
            </button>
          </li>
        ))}
        {view.data?.folders.length === 0 && (
          <li className="px-2 py-1 text-note text-faint">No folders in it.</li>
        )}
      </ul>
      <p className="mt-1.5 text-note text-faint">
        {view.data && `${view.data.files} ${view.data.files === 1 ? "file" : "files"} right in it`}
      </p>
    </>
  );
}

interface FolderDialogProps {
  roll: Roll | null;
  onDone: (order: FolderImport) => void;
  onClose: () => void;
}

/** A folder of this computer becomes frames: where it is, whether files are copied, on which roll. */
export function FolderDialog({ roll, onDone, onClose }: FolderDialogProps) {
  const [path, setPath] = useState<string | null>(null);
  const [keep, setKeep] = useState<"copy" | "refer">("copy");
  const [onto, setOnto] = useState<"new" | "this">("new");
  const [subfolders, setSubfolders] = useState(true);
  const [again, setAgain] = useState(false);
  const home = useQuery({
    queryKey: ["folder", path],
    queryFn: () => api.folder(path),
    retry: false,
  });
  const order = useMutation({
    mutationFn: () =>
      api.takeFolder({
        folder: home.data?.path ?? path ?? "",
        roll_id: onto === "this" && roll ? roll.id : null,
        keep,
        subfolders,
        again,
      }),
    onSuccess: onDone,
  });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 w-[560px] -translate-x-1/2 -translate-y-1/2 rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="mb-3 text-head font-semibold">
            Take in a folder of this computer
          </Dialog.Title>
          <FolderPicker path={path} onPath={setPath} />
          <div className="mt-3 grid grid-cols-[92px_1fr] items-center gap-x-3 gap-y-2 text-[12.5px]">
            <span className="text-soft">Originals</span>
            <Segments
              label="Originals"
              value={keep}
              onChange={setKeep}
              options={[
                { value: "copy", text: "Copy into the library" },
                { value: "refer", text: "Refer to them in place" },
              ]}
            />
            <span />
            <p className="text-note text-faint">
              {keep === "copy"
                ? "The card or disk can be taken away afterwards."
                : "Nothing is copied. Silvrin says so when a file or its disk is gone, and finds it again."}
            </p>
            <span className="text-soft">Roll</span>
            <Segments
              label="Roll"
              value={roll ? onto : "new"}
              onChange={setOnto}
              options={
                roll
                  ? [
                      { value: "new", text: "A new one, named as the folder" },
                      { value: "this", text: `On “${roll.name}”` },
                    ]
                  : [{ value: "new", text: "A new one, named as the folder" }]
              }
            />
            <span />
            <div className="flex flex-col gap-1 text-soft">
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={subfolders}
                  onChange={(event) => setSubfolders(event.target.checked)}
                />
                With its subfolders
              </label>
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={again}
                  onChange={(event) => setAgain(event.target.checked)}
                />
                Also what other rolls have already
              </label>
            </div>
          </div>
          {order.error && (
            <p role="alert" className="mt-3 border-l-2 border-loss pl-3 text-note">
              {order.error.message}
            </p>
          )}
          <div className="mt-5 flex justify-end gap-2">
            <Button onClick={onClose}>Leave</Button>
            <Button go disabled={!home.data || order.isPending} onClick={() => order.mutate()}>
              {order.isPending ? "Looking through it…" : "Take in"}
            </Button>
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
