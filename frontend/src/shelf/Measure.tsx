import { useMutation } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api, type ItemFile, type Measurement, Problem, type Shelf } from "../api/client";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";
import { Segments } from "../parts/Segments";
import { Densitometer } from "./Densitometer";
import { Labelled, Takes } from "./ItemEditor";
import { Result } from "./Result";

type What = Measurement["kind"];
const WHATS: { value: What; text: string }[] = [
  { value: "wedge", text: "Film" },
  { value: "paper", text: "Paper" },
  { value: "toner", text: "Toner" },
  { value: "sensitivity", text: "Film's sensitivity" },
  { value: "filter", text: "Filter" },
  { value: "light", text: "Light" },
];
const HELP: Record<What, string> = {
  wedge:
    "CSV or CGATS.17 text with a column 'density' and one of 'log_h' (log10 lx·s), 'wedge' (the tablet's density) or 'step' (its number).",
  paper:
    "A step wedge printed on the paper, as CSV or CGATS.17: 'density' with 'log_h', 'wedge' or 'step', and a column 'grade' where it was printed on several. Zero the densitometer on its white reference, not on the paper.",
  toner:
    "CIELAB of the steps of a wedge before and after toning to the end: columns 'state' (untoned, toned), 'L', 'a' and 'b', in one order, as CSV or CGATS.17.",
  sensitivity: "Columns 'nm' and 'value', or 'log_sensitivity'.",
  filter: "Columns 'nm' and 'transmittance', parts of 1 or per cent.",
  light: "Columns 'nm' and 'power', in any unit.",
};

/** What a densitometer measures of it. */
const ON_DEVICE: Partial<Record<What, "film" | "paper" | "toner">> = {
  wedge: "film",
  paper: "paper",
  toner: "toner",
};
/** While patches are read, there are too few of them to begin with: that is no fault. */
const growing = (error: unknown) => error instanceof Problem && error.status < 500;

interface MeasureProps {
  shelf: Shelf;
  onDone: (file: ItemFile) => void;
  onClose: () => void;
}

/** From readings to an own stock, paper, filter or light: fit, residuals, figures, and onto the shelf. */
export function Measure({ shelf, onDone, onClose }: MeasureProps) {
  const [what, setWhat] = useState<What>("wedge");
  const [text, setText] = useState("");
  const [fileName, setFileName] = useState("pasted text");
  const [step, setStep] = useState("0.15");
  const [name, setName] = useState("");
  const [base, setBase] = useState("larch-100");
  const [sheet, setSheet] = useState("glossy-fibre-neutral");
  const [speed, setSpeed] = useState("");
  const [from, setFrom] = useState<"file" | "device">("file");
  const [takes, setTakes] = useState("throughout");

  const read = useMutation({
    mutationFn: (given: { text: string; name: string; kind: What; step?: number }) =>
      api.measure({ step: Number(step.replace(",", ".")) || 0.15, ...given }),
  });
  const device = from === "device" ? ON_DEVICE[what] : undefined;
  const found = read.data;
  const wedge = found?.wedge;
  const paper = found?.paper;
  const again = (kind = what, content = text, from = fileName) => {
    if (content.trim()) read.mutate({ text: content, name: from, kind });
    else read.reset();
  };
  const keep = useMutation({
    mutationFn: async () => {
      if (what === "wedge" || what === "sensitivity") {
        const file = await api.item("stock", base);
        const changes =
          what === "wedge"
            ? { curve: wedge?.shape, speed: Math.round(Number(speed) || wedge?.speed || 100) }
            : { sensitivity: found?.spectrum };
        return api.addItem({
          ...file,
          item: { ...file.item, ...changes, name, source: `Measured: ${fileName}.` },
        });
      }
      if (what === "paper" && paper) {
        const file = await api.item("paper", sheet);
        const { base_density, net_density, toe, shoulder } = paper;
        const ranges = paper.grades
          .map((g) => ({ grade: g.grade ?? g.nearest, log_range: g.log_range }))
          .sort((a, b) => a.grade - b.grade);
        const changes = {
          ...{ base_density, net_density, toe, shoulder, ranges },
          speed: Math.round(Number(speed) || paper.speed || 100),
          about: "",
        };
        return api.addItem({
          ...file,
          item: { ...file.item, ...changes, name, source: `Measured: ${fileName}.` },
        });
      }
      if (what === "toner" && found?.toner)
        return api.addItem({
          format: "silvrin-shelf-1",
          kind: "toner",
          item: {
            ...{ id: "own", name, takes, rows: found.toner.rows },
            ...{ about: "", source: `Measured: ${fileName}.` },
          },
        });
      const plain = { id: "own", name, source: `Measured: ${fileName}.` };
      const own = what === "filter" ? { colour: "measured" } : { kind: "measured" };
      return api.addItem({
        format: "silvrin-shelf-1",
        kind: what === "filter" ? "filter" : "light",
        item: { ...plain, ...own, spectrum: found?.spectrum },
      });
    },
    onSuccess: onDone,
  });
  const ready =
    name.trim() !== "" &&
    (what === "wedge"
      ? wedge?.shape != null
      : what === "paper"
        ? paper != null
        : what === "toner"
          ? found?.toner != null
          : found?.spectrum != null);
  const error = read.error ?? keep.error;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 flex max-h-[94vh] w-[860px] -translate-x-1/2 -translate-y-1/2 flex-col overflow-y-auto rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="mb-3 text-head font-semibold">Measure your own</Dialog.Title>
          <div className="mb-3 w-[640px]">
            <Segments
              label="What was measured"
              value={what}
              onChange={(next) => {
                setWhat(next);
                again(next);
              }}
              options={WHATS}
            />
          </div>
          <div className="grid grid-cols-[300px_1fr] gap-5">
            <div className="flex flex-col gap-2">
              {ON_DEVICE[what] && (
                <Segments
                  label="Readings from"
                  value={from}
                  onChange={(next) => {
                    setFrom(next);
                    setText("");
                    read.reset();
                  }}
                  options={[
                    { value: "file", text: "a file" },
                    { value: "device", text: "a densitometer" },
                  ]}
                />
              )}
              {device ? (
                <Densitometer
                  key={what}
                  what={device}
                  onReadings={(content, apart) => {
                    setText(content);
                    setFileName("densitometer");
                    setStep(String(apart));
                    // the fit grows as soon as there is enough to fit
                    read.mutate({ text: content, name: "densitometer", kind: what, step: apart });
                  }}
                />
              ) : (
                <>
                  <p className="text-note text-soft">{HELP[what]}</p>
                  <label className="cursor-pointer self-start rounded bg-raise px-2.5 py-1 text-[12.5px] hover:bg-lift">
                    Choose a file…
                    <input
                      type="file"
                      accept=".csv,.txt,.tsv,.cgats,.ti3"
                      aria-label="Measurement file"
                      className="sr-only"
                      onChange={async (event) => {
                        const chosen = event.target.files?.[0];
                        event.target.value = "";
                        if (!chosen) return;
                        const content = await chosen.text();
                        setText(content);
                        setFileName(chosen.name);
                        again(what, content, chosen.name);
                      }}
                    />
                  </label>
                  <textarea
                    aria-label="Readings"
                    rows={9}
                    spellCheck={false}
                    placeholder={"step;density\n1;0,09\n2;0,10\n…"}
                    value={text}
                    onChange={(event) => setText(event.target.value)}
                    onBlur={() => again()}
                    className="w-full resize-none rounded-[3px] bg-well px-2 py-1 text-note"
                  />
                  {(what === "wedge" || what === "paper") && (
                    <label className="flex items-center gap-2 text-note text-soft">
                      Steps lie
                      <input
                        aria-label="Log exposure between steps"
                        value={step}
                        onChange={(event) => setStep(event.target.value)}
                        onBlur={() => again()}
                        className="w-14 rounded-[3px] bg-well px-1.5 py-[3px] text-right text-ink"
                      />
                      apart in log exposure
                    </label>
                  )}
                  <Button onClick={() => again()} disabled={!text.trim()}>
                    Read it
                  </Button>
                </>
              )}
              {error && !(device && growing(read.error)) && (
                <p role="alert" className="border-l-2 border-loss pl-3 text-note">
                  {error.message}
                </p>
              )}
              {found?.notes.map((note) => (
                <p key={note} className="border-l-2 border-amber pl-3 text-note text-soft">
                  {note}
                </p>
              ))}
            </div>
            <Result found={found} />
          </div>
          <div className="mt-4 grid grid-cols-[1fr_auto] items-end gap-4 border-t border-line pt-3">
            <div className="flex flex-wrap items-end gap-x-5 gap-y-1.5">
              <Labelled text="Name">
                <input
                  value={name}
                  onChange={(event) => setName(event.target.value)}
                  className="w-44 rounded-[3px] bg-well px-2 py-1"
                />
              </Labelled>
              {(what === "wedge" || what === "sensitivity") && (
                <Labelled text="All else from">
                  <select
                    value={base}
                    onChange={(event) => setBase(event.target.value)}
                    className="w-40 rounded-[3px] bg-well px-1.5 py-1"
                  >
                    {shelf.stocks.map((s) => (
                      <option key={s.id} value={s.id}>
                        {s.name}
                      </option>
                    ))}
                  </select>
                </Labelled>
              )}
              {what === "toner" && (
                <Labelled text="Takes first">
                  <Takes value={takes} onChange={setTakes} />
                </Labelled>
              )}
              {what === "paper" && (
                <Labelled text="All else from">
                  <select
                    value={sheet}
                    onChange={(event) => setSheet(event.target.value)}
                    className="w-40 rounded-[3px] bg-well px-1.5 py-1"
                  >
                    {shelf.papers.map((p) => (
                      <option key={p.id} value={p.id}>
                        {p.name}
                      </option>
                    ))}
                  </select>
                </Labelled>
              )}
              {((what === "wedge" && wedge && !wedge.absolute) ||
                (what === "paper" && paper && !paper.speed)) && (
                <Labelled text="Its speed">
                  <input
                    value={speed}
                    placeholder={what === "paper" ? "ISO P" : "ISO"}
                    onChange={(event) => setSpeed(event.target.value)}
                    className="w-20 rounded-[3px] bg-well px-2 py-1"
                  />
                </Labelled>
              )}
            </div>
            <div className="flex gap-2">
              <Dialog.Close asChild>
                <Button>Leave</Button>
              </Dialog.Close>
              <Button go disabled={!ready || keep.isPending} onClick={() => keep.mutate()}>
                Put on the shelf
              </Button>
            </div>
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
