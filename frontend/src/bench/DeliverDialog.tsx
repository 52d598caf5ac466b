import { useMutation, useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api, type DeliveryOrder, type Frame } from "../api/client";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";
import { Segments } from "../parts/Segments";
import { type Bench, useBench } from "../state/bench";
import { bytes } from "../wording/format";

const SHARING = 2048;
type Size = "full" | "print" | "sharing";

/** Pixels of a file of a size, in words. */
function pixelsOf({ header }: Bench, size: Size, alone: boolean): string {
  if (!header) return "";
  const { full, at_size, alone_at_size } = header.mounted;
  const whole = alone ? [header.picture_width, header.picture_height] : full;
  const printed = alone ? alone_at_size : at_size;
  const ratio = size === "sharing" ? Math.min(1, SHARING / Math.max(...whole)) : 1;
  return (size === "print" ? printed : whole.map((side) => Math.round(side * ratio))).join(" × ");
}

interface DeliverDialogProps {
  printId: number;
  frame: Frame;
  open: boolean;
  onOpen: (open: boolean) => void;
  /** Resolves when the newest state of the print is the one that would be delivered. */
  kept: () => Promise<void>;
}

/** From print to file: what to write, how far it is, and where it lies. */
export function DeliverDialog({ printId, frame, open, onOpen, kept }: DeliverDialogProps) {
  const [format, setFormat] = useState<"tiff" | "jpeg">("tiff");
  const [size, setSize] = useState<Size>("full");
  const order = useMutation({
    mutationFn: (o: DeliveryOrder) => kept().then(() => api.deliver(printId, o)),
  });
  const id = order.data?.id;
  const delivery = useQuery({
    queryKey: ["delivery", id],
    queryFn: () => api.delivery(id ?? 0),
    enabled: id !== undefined,
    staleTime: Infinity, // news keep it as it is
  });
  const job = id === undefined ? undefined : delivery.data;
  const busy = order.isPending || job?.state === "waiting" || job?.state === "running";
  const [bare, setBare] = useState(false);
  const [space, setSpace] = useState<"srgb" | "display-p3">("srgb");
  const changes = useBench(({ header }) => header?.mounted.changes ?? false);
  const coloured = useBench(({ header }) =>
    bare ? header?.mounted.alone_coloured : header?.mounted.coloured,
  );
  const pixels = useBench((bench) => pixelsOf(bench, size, bare));
  const again = () => order.reset();

  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        if (!next) again();
        onOpen(next);
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 w-[400px] -translate-x-1/2 -translate-y-1/2 rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="text-head font-semibold">Deliver</Dialog.Title>
          <p className="mb-4 text-note text-soft">
            {frame.roll_name}, frame {frame.number}, {frame.title}
          </p>
          {job?.state === "done" && job.file ? (
            <>
              <p>
                The print is finished: {job.width} × {job.height} pixels, {bytes(job.bytes ?? 0)}.
              </p>
              <p className="mt-2 rounded bg-well px-3 py-2 text-note break-words text-soft select-text">
                {job.file}
              </p>
              <div className="mt-5 flex justify-end gap-2">
                <Button onClick={again}>Deliver another</Button>
                <a
                  href={`/api/deliveries/${job.id}/file`}
                  download
                  className="rounded bg-amber px-2.5 py-1 text-[12.5px] font-semibold text-[#1a1206] hover:bg-[#f0b264]"
                >
                  Download
                </a>
              </div>
            </>
          ) : (
            <>
              <div className="grid grid-cols-[72px_1fr] items-center gap-y-2.5">
                <span className="text-[12.5px] text-soft">File</span>
                <Segments
                  label="File format"
                  value={format}
                  onChange={setFormat}
                  options={[
                    { value: "tiff", text: "TIFF, 16 bit" },
                    { value: "jpeg", text: "JPEG" },
                  ]}
                />
                <span className="text-[12.5px] text-soft">Size</span>
                <Segments
                  label="Size"
                  value={size}
                  onChange={setSize}
                  options={[
                    { value: "full", text: "Full size" },
                    { value: "print", text: "Print size" },
                    { value: "sharing", text: `${SHARING} px` },
                  ]}
                />
                <span className="text-[12.5px] text-soft">Print</span>
                <span className="text-note text-soft">
                  {pixels} pixels, {coloured ? "in colour" : "grey"}, with its colour profile
                </span>
                {coloured && (
                  <>
                    <span className="text-[12.5px] text-soft">Colours</span>
                    <Segments
                      label="Colour space"
                      value={space}
                      onChange={setSpace}
                      options={[
                        { value: "srgb", text: "sRGB" },
                        { value: "display-p3", text: "Display P3" },
                      ]}
                    />
                  </>
                )}
                {changes && (
                  <>
                    <span className="text-[12.5px] text-soft">Mount</span>
                    <Segments
                      label="Mount"
                      value={bare ? "alone" : "mounted"}
                      onChange={(as) => setBare(as === "alone")}
                      options={[
                        { value: "mounted", text: "As mounted" },
                        { value: "alone", text: "Picture alone" },
                      ]}
                    />
                  </>
                )}
              </div>
              {busy && (
                <div
                  role="progressbar"
                  aria-label="Progress of the delivery"
                  aria-valuenow={Math.round((job?.progress ?? 0) * 100)}
                  className="mt-5 h-1 bg-[#3d3d3d]"
                >
                  <div
                    className="h-full bg-amber"
                    style={{ width: `${(job?.progress ?? 0) * 100}%` }}
                  />
                </div>
              )}
              {(job?.state === "failed" || order.error) && (
                <p role="alert" className="mt-4 border-l-2 border-loss pl-3 text-note">
                  {job?.error ?? order.error?.message}
                </p>
              )}
              <div className="mt-5 flex justify-end gap-2">
                {busy && id !== undefined ? (
                  <Button onClick={() => api.cancelDelivery(id).then(again)}>Cancel</Button>
                ) : (
                  <Dialog.Close asChild>
                    <Button>Close</Button>
                  </Dialog.Close>
                )}
                <Button
                  go
                  disabled={busy}
                  onClick={() =>
                    order.mutate({
                      format,
                      long_side: size === "sharing" ? SHARING : null,
                      print_size: size === "print",
                      mounted: !bare,
                      space,
                    })
                  }
                >
                  {busy ? "Printing…" : "Deliver"}
                </Button>
              </div>
            </>
          )}
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
