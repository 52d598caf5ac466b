import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useRef, useState } from "react";
import { api } from "../api/client";
import type { Output, Plan, Through } from "../api/types";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";
import { Input } from "../parts/Field";
import { MadeRow } from "./MadeRow";
import { Ordered } from "./Ordered";
import { OutputEditor } from "./OutputEditor";
import { keepLast, lastOutput, summary } from "./outputs";

interface DeliverDialogProps {
  prints?: number[];
  /** Or frames: of each the print that the sheet shows. */
  frames?: number[];
  /** What is delivered, in words. */
  of: string;
  onClose: () => void;
  /** Resolves when the newest states of the prints are those that would be delivered. */
  kept?: () => Promise<void>;
  /** Shows the print as a press prints it. */
  onPress?: (through: Through) => void;
}

const PAUSE = 150; // ms
const NONE: number[] = [];
const NO_NAMES: string[] = [];

/** From prints to files: as what they are written, and then how far they are. */
export function DeliverDialog(props: DeliverDialogProps) {
  const { prints = NONE, frames = NONE, of, onClose, onPress, kept = async () => {} } = props;
  const queries = useQueryClient();
  const sets = useQuery({ queryKey: ["output-sets"], queryFn: api.outputSets });
  const [own, setOwn] = useState<Output | null>(lastOutput);
  const [ticked, setTicked] = useState<string[]>([]);
  const [alone, setAlone] = useState(true);
  const [asking, setAsking] = useState(false);
  const [naming, setNaming] = useState<string | null>(null);
  // what was kept on this machine may be of a Silvrin that knew less of outputs
  const file = own ? { ...sets.data?.plain, ...own } : sets.data?.plain;
  const outputs = [
    ...(alone && file ? [file] : []),
    ...(sets.data?.sets ?? []).filter(({ id }) => ticked.includes(id)).flatMap((s) => s.outputs),
  ];
  const at = `/api/prints/${prints[0]}/table`;
  const wanted = { prints, frames, outputs };
  const planned = useRef(false);
  const plan = useQuery<Plan>({
    queryKey: ["plan", wanted],
    // not for each letter that is typed
    queryFn: async ({ signal }) => {
      if (planned.current) await new Promise((done) => setTimeout(done, PAUSE));
      signal.throwIfAborted();
      planned.current = true;
      await kept();
      return api.planned(wanted, signal);
    },
    enabled: outputs.length > 0,
    placeholderData: keepPreviousData,
    staleTime: 0,
    retry: false,
  });
  const order = useMutation({
    mutationFn: (clashes?: "number" | "replace") =>
      kept().then(() => api.deliver({ ...wanted, clashes })),
    onSuccess: () => {
      if (own) keepLast(own);
      setAsking(false);
      for (const key of ["dried", "plan"]) queries.invalidateQueries({ queryKey: [key] });
    },
  });
  const keep = useMutation({
    mutationFn: (name: string) => api.keepSet({ name, outputs }),
    onSuccess: (made) => {
      setNaming(null);
      setAlone(false);
      setTicked([made.id]);
      queries.invalidateQueries({ queryKey: ["output-sets"] });
    },
  });
  const remove = useMutation({
    mutationFn: api.removeSet,
    onSuccess: () => queries.invalidateQueries({ queryKey: ["output-sets"] }),
  });
  const many = outputs.length ? (plan.data?.files ?? 0) : 0;
  const there = plan.data?.clashes ?? NO_NAMES;
  const cannot = plan.data?.wrong ?? NO_NAMES;
  const wrong = plan.error ?? order.error ?? keep.error ?? remove.error;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 z-20 flex max-h-[92vh] w-[820px] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="text-head font-semibold">Deliver</Dialog.Title>
          <p className="mb-4 text-note text-soft">{of}</p>
          {order.data ? (
            <Ordered
              jobs={order.data}
              onAnother={() => order.reset()}
              onClose={onClose}
              onCancel={(some) => Promise.all(some.map(({ id }) => api.takeOff(id)))}
            />
          ) : (
            <>
              <div className="grid min-h-0 grid-cols-[236px_1fr] gap-6 overflow-y-auto">
                <section aria-label="What is made">
                  <MadeRow
                    on={alone}
                    name="This file"
                    lines={file ? [summary(file)] : []}
                    onTick={setAlone}
                  />
                  {(sets.data?.sets ?? []).map((each) => (
                    <MadeRow
                      key={each.id}
                      on={ticked.includes(each.id)}
                      name={each.name}
                      lines={each.outputs.map(summary)}
                      onTick={(on) =>
                        setTicked(on ? [...ticked, each.id] : ticked.filter((id) => id !== each.id))
                      }
                      onBegin={() => {
                        setOwn(each.outputs[0] ?? null);
                        setAlone(true);
                        setTicked(ticked.filter((id) => id !== each.id));
                      }}
                      onRemove={each.own ? () => remove.mutate(each.id) : undefined}
                    />
                  ))}
                  {naming === null ? (
                    <Button
                      className="mt-2"
                      disabled={outputs.length === 0}
                      onClick={() => setNaming("")}
                    >
                      Keep what is ticked…
                    </Button>
                  ) : (
                    <form
                      className="mt-2 flex gap-1.5"
                      onSubmit={(event) => {
                        event.preventDefault();
                        if (naming.trim()) keep.mutate(naming.trim());
                      }}
                    >
                      <Input
                        autoFocus
                        aria-label="Name of the set"
                        placeholder="Name of the set"
                        maxLength={60}
                        value={naming}
                        onChange={(event) => setNaming(event.target.value)}
                        className="min-w-0 flex-1"
                      />
                      <Button type="submit" disabled={!naming.trim()}>
                        Keep
                      </Button>
                    </form>
                  )}
                </section>
                <section
                  aria-label="This file"
                  className={`border-l border-line pl-6 ${alone ? "" : "opacity-50"}`}
                >
                  {file && sets.data && (
                    <OutputEditor
                      output={file}
                      profiles={sets.data.profiles}
                      ranges={sets.data.ranges}
                      onChange={setOwn}
                      onPress={onPress}
                    />
                  )}
                </section>
              </div>
              <div className="mt-4 min-h-9 border-t border-line pt-3 text-note text-soft">
                {outputs.length === 0 && "Nothing is ticked: tick what is to be made."}
                {!plan.error &&
                  outputs.length > 0 &&
                  plan.data?.example.map((name, i) => {
                    const size = plan.data.sizes[i];
                    return (
                      <p
                        key={`${name} ${plan.data.folders[i]} ${outputs[i]?.format}`}
                        className="flex gap-3"
                      >
                        <span className="min-w-0 truncate text-ink" title={plan.data.folders[i]}>
                          {name}
                        </span>
                        {size && (
                          <span className="ml-auto shrink-0">
                            {size.width} × {size.height} pixels, {Math.round(size.ppi)} ppi,{" "}
                            {size.coloured ? "in colour" : "grey"}
                            {size.limited && " – the capture has no more"}
                          </span>
                        )}
                      </p>
                    );
                  })}
                {plan.data && plan.data.without > 0 && (
                  <p>
                    {plan.data.without === 1
                      ? "One frame has no print yet and is left out."
                      : `${plan.data.without} frames have no print yet and are left out.`}
                  </p>
                )}
                {asking && there.length > 0 && (
                  <p
                    role="alert"
                    className="mt-2 flex items-center gap-2 border-l-2 border-amber pl-3"
                  >
                    {there.length === 1
                      ? "A file of that name is there already."
                      : `${there.length} files of these names are there already.`}
                    <Button onClick={() => order.mutate("number")}>Number them</Button>
                    <Button onClick={() => order.mutate("replace")}>Replace</Button>
                  </p>
                )}
                {(wrong ? [wrong.message] : cannot).map((text) => (
                  <p key={text} role="alert" className="mt-2 border-l-2 border-loss pl-3">
                    {text}
                  </p>
                ))}
              </div>
              <div className="mt-4 flex items-center justify-end gap-2">
                {prints.length === 1 && (
                  <p
                    className="mr-auto flex gap-2 text-note text-soft"
                    title="What film, development, paper and toner do to a colour. Left out: grain, halation, soft focus, haze, local contrast, the printing map, spotting, sharpening, the mount, and the white balance"
                  >
                    As a table for other programs:
                    <a className="underline hover:text-ink" href={`${at}.cube`} download>
                      CUBE
                    </a>
                    <a className="underline hover:text-ink" href={`${at}.clf`} download>
                      CLF
                    </a>
                    <a
                      className="underline hover:text-ink"
                      href={`${at}.clf?input=bt2020`}
                      download
                    >
                      CLF of linear light
                    </a>
                  </p>
                )}
                <Dialog.Close asChild>
                  <Button>Close</Button>
                </Dialog.Close>
                <Button
                  go
                  disabled={
                    many <= cannot.length ||
                    order.isPending ||
                    plan.isError ||
                    plan.isPlaceholderData
                  }
                  onClick={() => (there.length > 0 ? setAsking(true) : order.mutate(undefined))}
                >
                  {many > 1 ? `Deliver ${many} files` : "Deliver"}
                </Button>
              </div>
            </>
          )}
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
