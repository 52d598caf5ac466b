import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "wouter";
import { api, photographed } from "../api/client";
import type { ProcessCurve, TargetReadings } from "../api/types";
import { Button } from "../parts/Button";
import { Field, Input } from "../parts/Field";
import { Header } from "../parts/Header";
import { useNotice } from "../parts/Notice";
import { Segments } from "../parts/Segments";
import { Densitometer } from "../shelf/Densitometer";
import { ShelfTabs } from "../shelf/ShelfTabs";
import { ProcessPlots } from "./ProcessPlots";

/** Readings from which a curve can be fitted. */
const LEAST = 11;

/** Processes of contact printing: a target is printed, read, and printed straight. */
export function ContactPage() {
  const tell = useNotice();
  const queries = useQueryClient();
  const [steps, setSteps] = useState<21 | 31>(31);
  const [ink, setInk] = useState("#000000");
  const [by, setBy] = useState<"readings" | "densitometer">("readings");
  const [text, setText] = useState("");
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState<number | null>(null);
  const [measured, setMeasured] = useState<{ given: TargetReadings; found: ProcessCurve } | null>(
    null,
  );
  const picker = useRef<HTMLInputElement>(null);
  const kept = useQuery({ queryKey: ["processes"], queryFn: api.processes });
  const shown = useQuery({
    queryKey: ["processes", chosen],
    queryFn: () => api.process(chosen ?? 0),
    enabled: chosen !== null,
  });
  const process = kept.data?.find(({ id }) => id === chosen);
  const fit = useMutation({
    mutationFn: (given: TargetReadings) =>
      api.fitProcess(given).then((found) => found && { given, found }),
    onSuccess: setMeasured,
    onError: () => setMeasured(null),
  });
  const look = useMutation({
    mutationFn: (file: File) => photographed(file, steps),
    onSuccess: (densities) => {
      const lines = densities.map((d) => d.toFixed(3)).join("\n");
      setText(lines);
      read({ text: lines });
    },
  });
  const wrong = look.error ?? fit.error;
  const keep = useMutation({
    mutationFn: (given: TargetReadings) => api.keepProcess(given),
    onSuccess: (made) => {
      setChosen(made.id);
      start();
      queries.invalidateQueries({ queryKey: ["processes"] });
    },
    onError: tell,
  });
  const remove = useMutation({
    mutationFn: api.removeProcess,
    onSuccess: () => {
      setChosen(null);
      queries.invalidateQueries({ queryKey: ["processes"] });
    },
    onError: tell,
  });
  const start = () => {
    setMeasured(null);
    setText("");
    setName("");
    fit.reset();
    look.reset();
  };
  const read = (from: { text?: string; stand_in?: boolean; growing?: boolean }) =>
    fit.mutate({
      steps,
      text: "",
      stand_in: false,
      growing: false,
      process: chosen,
      name: process?.name ?? (name.trim() || "Contact process"),
      ...from,
    });
  const target = new URLSearchParams({
    steps: String(steps),
    ink: ink.slice(1),
    ...(chosen !== null && { process: String(chosen) }),
  });
  const curve = measured?.found ?? (chosen !== null ? shown.data : undefined);
  return (
    <div className="flex h-full flex-col">
      <Header
        actions={
          <Button
            disabled={chosen === null}
            title="Its negatives are printed as they are from then on"
            onClick={() => chosen !== null && remove.mutate(chosen)}
          >
            Take off
          </Button>
        }
      >
        <Link href="/" className="hover:text-ink">
          Contact sheet
        </Link>
      </Header>
      <main className="grid min-h-0 flex-1 grid-cols-[288px_300px_1fr]">
        <nav
          aria-label="Processes"
          className="overflow-y-auto border-r border-black bg-panel px-3 py-3.5"
        >
          <h1 className="mb-2 text-head font-semibold">Shelf</h1>
          <ShelfTabs tab="contact" />
          <p className="mt-2 mb-1 text-note text-soft">Processes of printing by contact.</p>
          <button
            type="button"
            aria-current={chosen === null}
            onClick={() => {
              setChosen(null);
              start();
            }}
            className={`mb-2 w-full rounded-[3px] px-2 py-1 text-left ${chosen === null ? "bg-raise text-ink" : "text-soft hover:text-ink"}`}
          >
            A new process
          </button>
          {(kept.data ?? []).map((each) => (
            <button
              key={each.id}
              type="button"
              aria-current={chosen === each.id}
              onClick={() => {
                setChosen(each.id);
                start();
              }}
              className={`w-full rounded-[3px] px-2 py-1 text-left ${chosen === each.id ? "bg-raise text-ink" : "text-soft hover:text-ink"}`}
            >
              <span className="block truncate">{each.name}</span>
              <span className="text-small text-faint">
                {each.rounds === 1 ? "one round" : `${each.rounds} rounds`}, {each.base.toFixed(2)}{" "}
                to {each.black.toFixed(2)}
              </span>
            </button>
          ))}
        </nav>
        <section
          aria-label={process ? "A further round" : "Measuring a process"}
          className="flex flex-col gap-3 overflow-y-auto border-r border-black px-4 py-4"
        >
          <h2 className="text-head font-semibold">
            {process ? `${process.name}: round ${process.rounds + 1}` : "A new process"}
          </h2>
          <p className="text-note text-soft">
            {process
              ? "Print the target anew, linearised by what is known, and read it: what was off is put right."
              : "Print the target on film, expose and process it as you will your negatives, and read each patch of the print."}
          </p>
          <Field title="Target">
            <div className="w-36">
              <Segments
                label="Steps"
                value={String(steps)}
                onChange={(next) => setSteps(Number(next) as 21 | 31)}
                options={[
                  { value: "21", text: "21 steps" },
                  { value: "31", text: "31 steps" },
                ]}
              />
            </div>
            <label className="flex items-center gap-1.5 text-[12.5px] text-soft">
              Ink
              <input
                type="color"
                aria-label="Colour of the ink"
                value={ink}
                onChange={(event) => setInk(event.target.value)}
                className="h-6 w-9 bg-well"
              />
            </label>
            <a
              href={`/api/contact/target.png?${target}`}
              download
              className="rounded bg-raise px-2.5 py-1 text-[12.5px] hover:bg-lift"
            >
              {process ? "Linearised target" : "Target to print"}
            </a>
          </Field>
          <Segments
            label="Read by"
            value={by}
            onChange={(next) => {
              setBy(next);
              setMeasured(null);
              fit.reset();
            }}
            options={[
              { value: "readings", text: "Readings" },
              { value: "densitometer", text: "Densitometer" },
            ]}
          />
          {by === "densitometer" ? (
            <Densitometer
              key={`${steps} ${chosen}`}
              what="contact"
              target={{ steps, process: chosen }}
              onReadings={(readings) => {
                const count = readings.split("\n").length - 1;
                if (count >= LEAST) read({ text: readings, growing: count < steps });
                else setMeasured(null);
              }}
            />
          ) : (
            <>
              <textarea
                aria-label="Densities"
                placeholder={
                  "Densities of the print, one a line in the order of the numbers, or CSV or CGATS.17 with a column of density"
                }
                value={text}
                onChange={(event) => setText(event.target.value)}
                className="h-56 rounded bg-well p-2 text-note"
              />
              <div className="flex flex-wrap gap-2">
                <Button disabled={!text.trim() || fit.isPending} onClick={() => read({ text })}>
                  Fit
                </Button>
                <Button
                  title="A printer, ink and process that are computed, to try this with"
                  disabled={fit.isPending}
                  onClick={() => read({ stand_in: true })}
                >
                  Read the stand-in
                </Button>
                <Button
                  title="A camera raw or a scan of the printed target, all four corners in it; its tones must be light as it is"
                  disabled={look.isPending}
                  onClick={() => picker.current?.click()}
                >
                  {look.isPending ? "Reading…" : "From a photograph…"}
                </Button>
                <input
                  ref={picker}
                  type="file"
                  aria-label="A photograph of the target"
                  className="hidden"
                  onChange={(event) => {
                    const file = event.target.files?.[0];
                    event.target.value = "";
                    if (file) look.mutate(file);
                  }}
                />
              </div>
            </>
          )}
          {wrong && (
            <p role="alert" className="border-l-2 border-loss pl-3 text-note">
              {wrong.message}
            </p>
          )}
          {measured && !measured.given.growing && (
            <form
              className="flex gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                keep.mutate({
                  ...measured.given,
                  name: process?.name ?? name.trim(),
                });
              }}
            >
              {!process && (
                <Input
                  aria-label="Name of the process"
                  placeholder="Name of the process"
                  maxLength={60}
                  value={name}
                  onChange={(event) => setName(event.target.value)}
                  className="min-w-0 flex-1"
                />
              )}
              <Button go type="submit" disabled={keep.isPending || (!process && !name.trim())}>
                {process ? "Keep this round" : "Put on the shelf"}
              </Button>
            </form>
          )}
        </section>
        <section aria-label="Curve" className="flex min-h-0 flex-col overflow-y-auto px-6 py-4">
          {curve ? (
            <ProcessPlots curve={curve} />
          ) : (
            <p className="grid h-80 place-items-center text-soft">
              The curve is drawn here once enough of a target is read.
            </p>
          )}
        </section>
      </main>
    </div>
  );
}
