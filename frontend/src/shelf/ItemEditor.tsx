import { useMutation } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { api, type ItemFile } from "../api/client";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";

interface ItemEditorProps {
  file: ItemFile;
  /** The id of the own item that is changed; null for a new one. */
  own: string | null;
  onDone: (file: ItemFile) => void;
  onClose: () => void;
}

interface Row {
  /** Where it lies in the item. */
  path: string[];
  text: string;
  unit?: string;
}

const STOCK_NUMBERS: Row[] = [
  { path: ["speed"], text: "Speed", unit: "ISO" },
  { path: ["granularity"], text: "Granularity", unit: "rms" },
  { path: ["grain"], text: "Grain", unit: "µm" },
  { path: ["resolving_power"], text: "Resolving power", unit: "l/mm" },
  { path: ["halation"], text: "Halation", unit: "share" },
  { path: ["curve", "base_fog"], text: "Base and fog", unit: "D" },
  { path: ["curve", "toe"], text: "Toe, softness", unit: "log H" },
  { path: ["curve", "shoulder"], text: "Shoulder, at", unit: "log H" },
  { path: ["curve", "shoulder_softness"], text: "Shoulder, softness", unit: "log H" },
];

const PAPER_NUMBERS: Row[] = [
  { path: ["speed"], text: "Speed", unit: "ISO P" },
  { path: ["base_density"], text: "Base", unit: "D" },
  { path: ["net_density"], text: "Black above it", unit: "D" },
  { path: ["toe"], text: "Toe", unit: "part" },
  { path: ["shoulder"], text: "Shoulder", unit: "part" },
  { path: ["image", "0"], text: "Image a*" },
  { path: ["image", "1"], text: "Image b*" },
];

type Item = Record<string, unknown>;
const at = (item: Item, path: string[]): unknown =>
  path.reduce<unknown>((found, part) => (found as Item)[part], item);
const withAt = (item: Item, [first = "", ...rest]: string[], value: unknown): Item => {
  const next = rest.length ? withAt(item[first] as Item, rest, value) : value;
  if (Array.isArray(item)) return item.with(Number(first), next) as unknown as Item;
  return { ...item, [first]: next };
};

/** An own stock, filter, light or toning set: its name, its figures, and a spectrum read from a file. */
export function ItemEditor({ file, own, onDone, onClose }: ItemEditorProps) {
  const [item, setItem] = useState<Item>(file.item);
  const [said, setSaid] = useState<string[]>([]);
  const keep = useMutation({
    mutationFn: () => {
      const next: ItemFile = { ...file, item };
      return own ? api.changeItem(own, next) : api.addItem(next);
    },
    onSuccess: onDone,
  });
  const read = useMutation({
    mutationFn: async (chosen: File) =>
      api.measure({
        kind: file.kind === "filter" || file.kind === "light" ? file.kind : "sensitivity",
        text: await chosen.text(),
        name: chosen.name,
        step: 0.15,
      }),
    onSuccess: (found) => {
      const place = file.kind === "stock" ? "sensitivity" : "spectrum";
      setItem((now) => ({ ...now, [place]: found.spectrum }));
      setSaid(["The spectrum was read.", ...found.notes]);
    },
  });
  const text = (path: string[], label: string, long = false) => (
    <Labelled text={label}>
      {long ? (
        <textarea
          rows={3}
          value={String(at(item, path) ?? "")}
          onChange={(event) => setItem(withAt(item, path, event.target.value))}
          className="w-full resize-none rounded-[3px] bg-well px-2 py-1"
        />
      ) : (
        <input
          value={String(at(item, path) ?? "")}
          onChange={(event) => setItem(withAt(item, path, event.target.value))}
          className="w-full rounded-[3px] bg-well px-2 py-1"
        />
      )}
    </Labelled>
  );
  const error = keep.error ?? read.error;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 max-h-[92vh] w-[520px] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="mb-3 text-head font-semibold">
            {own ? "Change" : "Make your own"}
          </Dialog.Title>
          <div className="flex flex-col gap-2">
            {text(["name"], "Name")}
            {file.kind === "toner" && (
              <Labelled text="Takes first">
                <Takes
                  value={String(item.takes)}
                  onChange={(takes) => setItem({ ...item, takes })}
                />
              </Labelled>
            )}
            {file.kind !== "toning" &&
              file.kind !== "toner" &&
              file.kind !== "paper" &&
              text(
                [file.kind === "filter" ? "colour" : "kind"],
                file.kind === "filter" ? "Colour" : "Kind",
              )}
            {file.kind === "stock" && (
              <>
                <Labelled text="Grain kind">
                  <select
                    value={String(item.grain_kind)}
                    onChange={(event) => setItem({ ...item, grain_kind: event.target.value })}
                    className="rounded-[3px] bg-well px-1.5 py-1"
                  >
                    <option>cubic</option>
                    <option>tabular</option>
                  </select>
                </Labelled>
                <div className="grid grid-cols-2 gap-x-5 gap-y-1.5">
                  {STOCK_NUMBERS.map((row) => (
                    <NumberRow
                      key={row.text}
                      row={row}
                      value={Number(at(item, row.path))}
                      onChange={(value) => setItem(withAt(item, row.path, value))}
                    />
                  ))}
                </div>
              </>
            )}
            {file.kind === "paper" && (
              <>
                {text(["surface"], "Surface")}
                <Labelled text="Base">
                  <input
                    type="color"
                    value={String(item.tint)}
                    onChange={(event) => setItem({ ...item, tint: event.target.value })}
                    className="h-6 w-12 cursor-pointer border-0 bg-transparent p-0"
                  />
                </Labelled>
                <div className="grid grid-cols-2 gap-x-5 gap-y-1.5">
                  {PAPER_NUMBERS.map((row) => (
                    <NumberRow
                      key={row.text}
                      row={row}
                      value={Number(at(item, row.path))}
                      onChange={(value) => setItem(withAt(item, row.path, value))}
                    />
                  ))}
                </div>
              </>
            )}
            {text(["about"], "About", true)}
            {file.kind === "paper" || file.kind === "toner" ? null : file.kind === "toning" ? (
              <p className="text-note text-soft">
                Its baths and colours are set on a print, in the Toner's tray, and kept there under
                a name.
              </p>
            ) : (
              <Labelled text="Spectrum">
                <span className="flex items-center gap-3">
                  <label className="cursor-pointer rounded bg-raise px-2.5 py-1 text-[12.5px] hover:bg-lift">
                    Read from a file…
                    <input
                      type="file"
                      accept=".csv,.txt,.tsv,.cgats"
                      className="sr-only"
                      onChange={(event) => {
                        const chosen = event.target.files?.[0];
                        if (chosen) read.mutate(chosen);
                        event.target.value = "";
                      }}
                    />
                  </label>
                  <span className="text-note text-soft">CSV or CGATS.17, wavelength and value</span>
                </span>
              </Labelled>
            )}
            {said.map((note) => (
              <p key={note} className="text-note text-soft">
                {note}
              </p>
            ))}
          </div>
          {error && (
            <p role="alert" className="mt-4 border-l-2 border-loss pl-3 text-note">
              {error.message}
            </p>
          )}
          <div className="mt-5 flex justify-end gap-2">
            <Dialog.Close asChild>
              <Button>Leave</Button>
            </Dialog.Close>
            <Button go disabled={keep.isPending} onClick={() => keep.mutate()}>
              {own ? "Keep" : "Put on the shelf"}
            </Button>
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Which densities a toner takes first. */
export const Takes = ({ value, onChange }: { value: string; onChange: (to: string) => void }) => (
  <select
    value={value}
    onChange={(event) => onChange(event.target.value)}
    className="rounded-[3px] bg-well px-1.5 py-1"
  >
    <option value="lights">lights</option>
    <option value="shadows">shadows</option>
    <option value="throughout">none: throughout</option>
  </select>
);

export function Labelled({ text, children }: { text: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is given
    <label className="grid grid-cols-[88px_1fr] items-start gap-2 text-[12.5px]">
      <span className="pt-1 text-soft">{text}</span>
      {children}
    </label>
  );
}

interface NumberRowProps {
  row: Row;
  value: number;
  onChange: (value: number) => void;
}

function NumberRow({ row, value, onChange }: NumberRowProps) {
  const [typed, setTyped] = useState(String(value));
  return (
    <label className="grid grid-cols-[1fr_64px_40px] items-center gap-1.5 text-[12.5px]">
      <span className="text-soft">{row.text}</span>
      <input
        inputMode="decimal"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = Number(event.target.value.replace(",", "."));
          if (Number.isFinite(next)) onChange(next);
        }}
        className="w-full rounded-[3px] bg-well px-1.5 py-[3px] text-right"
      />
      <span className="text-small text-faint">{row.unit}</span>
    </label>
  );
}
