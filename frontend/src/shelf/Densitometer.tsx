import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Schemas } from "../api/client";
import { Button } from "../parts/Button";

type Wedge = Schemas["WedgeEntry"];
type Reading = Schemas["ReadingEntry"];
type What = Wedge["what"];

/** The readings of a wedge, from the first patch on; those of a toner's toned wedge follow. */
interface Series {
  wedge: Wedge;
  base: Reading;
  readings: Reading[];
}

interface DensitometerProps {
  what: What;
  /** Of a contact target: how many patches it has, and the process that linearised it. */
  target?: { steps: number; process: number | null };
  /** The readings so far, as a file would have them, and how far its steps lie apart. */
  onReadings: (text: string, step: number) => void;
}

/** Measuring step by step: the base, then patch after patch; what is asked for next, a reading
 * repeated or taken back. */
export function Densitometer({ what, target, onReadings }: DensitometerProps) {
  const devices = useQuery({ queryKey: ["densitometers"], queryFn: api.densitometers });
  const [deviceId, setDevice] = useState<string | null>(null);
  const [wedgeId, setWedge] = useState<string | null>(null);
  const [done, setDone] = useState<Series[]>([]);
  const [now, setNow] = useState<Series | null>(null);
  const device = devices.data?.find((d) => d.id === deviceId) ?? devices.data?.[0];
  const wedges =
    device?.wedges.filter((w) => w.what === what && (!target || w.steps === target.steps)) ?? [];
  const wedge = wedges.find((w) => w.id === wedgeId) ?? wedges[0];
  const all = wedge ? wedge.steps * (what === "toner" ? 2 : 1) : 0;

  const told = (series: Series[]) => onReadings(textOf(what, series), series[0]?.wedge.step ?? 0.1);
  const put = (next: Series) => {
    setNow(next);
    told([...done, next]);
  };
  const under = { wedge: wedge?.id ?? null, process: target?.process ?? null };
  const zero = useMutation({
    mutationFn: () => api.zero(device?.id ?? "", { ...under, patch: 0 }),
    onSuccess: (base) => {
      if (!wedge) return;
      // zeroed once more in the middle, what was read stays
      if (now?.wedge === wedge) setNow({ ...now, base });
      else setNow({ wedge, base, readings: [] });
    },
  });
  const read = useMutation({
    mutationFn: (patch: number) => api.reading(device?.id ?? "", { ...under, patch }),
    onSuccess: (reading, patch) => {
      if (now) put({ ...now, readings: [...now.readings.slice(0, patch - 1), reading] });
    },
  });
  const count = now?.readings.length ?? 0;
  const whole = now !== null && count >= all;
  const busy = zero.isPending || read.isPending;
  const next = () => {
    if (!now) zero.mutate();
    else if (!whole) read.mutate(count + 1);
  };
  // the space bar goes on, as the key of an instrument does
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLInputElement ||
        event.target instanceof HTMLSelectElement ||
        event.target instanceof HTMLTextAreaElement ||
        event.target instanceof HTMLButtonElement;
      if (event.key !== " " || typing || busy) return;
      event.preventDefault();
      next();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  });

  if (!device || !wedge) {
    return (
      <p className="text-note text-soft">
        {devices.error ? devices.error.message : "Looking for densitometers…"}
      </p>
    );
  }
  const error = zero.error ?? read.error;
  return (
    <div className="flex flex-col gap-2">
      <label className="grid grid-cols-[72px_1fr] items-center gap-2 text-note text-soft">
        Device
        <select
          value={device.id}
          onChange={(event) => setDevice(event.target.value)}
          className="rounded-[3px] bg-well px-1.5 py-1 text-ink"
        >
          {devices.data?.map((d) => (
            <option key={d.id} value={d.id}>
              {d.name}
            </option>
          ))}
        </select>
      </label>
      <label className="grid grid-cols-[72px_1fr] items-center gap-2 text-note text-soft">
        Wedge
        <select
          value={wedge.id}
          onChange={(event) => {
            // what was read of another grade stays beside this one
            if (now && what === "paper" && count) setDone([...done, now]);
            setNow(null);
            setWedge(event.target.value);
          }}
          className="rounded-[3px] bg-well px-1.5 py-1 text-ink"
        >
          {wedges.map((w) => (
            <option key={w.id} value={w.id}>
              {w.name}
            </option>
          ))}
        </select>
      </label>
      <p role="status" aria-label="What is asked for next" className="text-[12.5px]">
        {asks(what, wedge, now, count, all)}
      </p>
      <div className="flex flex-wrap gap-1.5">
        <Button go={!now} disabled={busy} onClick={() => zero.mutate()}>
          {now ? "Zero again" : "Zero"}
        </Button>
        <Button
          go={now !== null && !whole}
          disabled={!now || whole || busy}
          hint="space"
          onClick={() => read.mutate(count + 1)}
        >
          Read
        </Button>
        <Button
          disabled={!count || busy}
          title="Reads the last patch once more"
          onClick={() => read.mutate(count)}
        >
          Repeat
        </Button>
        <Button
          disabled={!now || !count || busy}
          title="As if the last patch had not been read"
          onClick={() => now && put({ ...now, readings: now.readings.slice(0, -1) })}
        >
          Take back
        </Button>
      </div>
      {error && (
        <p role="alert" className="border-l-2 border-loss pl-3 text-note">
          {error.message}
        </p>
      )}
      <ol
        aria-label="Readings so far"
        className="grid max-h-40 grid-cols-4 gap-x-3 overflow-y-auto rounded bg-well px-2 py-1 text-note"
      >
        {now?.readings.map((reading, i) => (
          <li key={i} className="flex justify-between">
            <span className="text-faint">{i + 1}</span>
            {reading.density.toFixed(2)}
          </li>
        ))}
      </ol>
      {done.length > 0 && (
        <p className="text-note text-soft">
          Beside it: {done.map((series) => series.wedge.name.toLowerCase()).join("; ")}.
        </p>
      )}
      <p className="text-note text-faint">{device.about}</p>
    </div>
  );
}

function asks(what: What, wedge: Wedge, now: Series | null, count: number, all: number): string {
  if (!now)
    return `Lay the ${what === "film" ? "clear film" : "bare paper"} under the head and press Zero.`;
  if (count >= all)
    return what === "paper"
      ? "All patches are read. Choose another grade, or put the paper on the shelf."
      : "All patches are read.";
  if (what === "toner" && count >= wedge.steps)
    return `Toned wedge: patch ${count - wedge.steps + 1} of ${wedge.steps}.`;
  return `${what === "toner" ? "Untoned wedge: p" : "P"}atch ${count + 1} of ${wedge.steps}.`;
}

/** Readings as a file would have them. */
function textOf(what: What, series: Series[]): string {
  if (what === "toner") {
    const rows = series.flatMap(({ wedge, readings }) =>
      readings.flatMap(({ lab }, i) =>
        lab ? [[i < wedge.steps ? "untoned" : "toned", ...lab].join(";")] : [],
      ),
    );
    return ["state;L;a;b", ...rows].join("\n");
  }
  const rows = series.flatMap(({ wedge, base, readings }) =>
    readings.map(({ density }, i) => {
      const whole = Math.max(base.density + density, 0).toFixed(3);
      return [...(what === "paper" ? [wedge.grade ?? 2] : []), i + 1, whole].join(";");
    }),
  );
  return [what === "paper" ? "grade;step;density" : "step;density", ...rows].join("\n");
}
