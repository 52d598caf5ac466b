import { useQuery } from "@tanstack/react-query";
import { Link } from "wouter";
import { api } from "../api/client";
import type { Output } from "../api/types";
import { Choice, Field, Tick } from "../parts/Field";
import { Segments } from "../parts/Segments";

/** A negative is written in the numbers of its ink. */
const PLAIN_COLOURS = { space: "own", profile: null } as const;

/** A print, or a negative of it for contact printing. */
export function ContactFields(props: { output: Output; set: (some: Partial<Output>) => void }) {
  const { output, set } = props;
  const kept = useQuery({ queryKey: ["processes"], queryFn: api.processes });
  const { contact } = output;
  const change = (some: Partial<Output["contact"]>) => set({ contact: { ...contact, ...some } });
  const negative = output.holds === "contact";
  return (
    <Field title="As">
      <div className="w-60">
        <Segments
          label="As"
          value={output.holds}
          onChange={(holds) =>
            set({
              holds,
              // it has its own size, whatever columns and rows a page has
              ...(holds === "contact" && {
                ...PLAIN_COLOURS,
                page: { ...output.page, columns: null, rows: null },
              }),
            })
          }
          options={[
            { value: "print", text: "Print" },
            { value: "contact", text: "Contact negative" },
          ]}
        />
      </div>
      {negative && (
        <>
          <Choice
            label="Process"
            value={String(contact.process ?? "")}
            options={[
              { value: "", text: "not linearised" },
              ...(kept.data ?? []).map(({ id, name }) => ({ value: String(id), text: name })),
            ]}
            onPick={(next) => change({ process: next ? Number(next) : null })}
          />
          <label className="flex items-center gap-1.5 text-[12.5px] text-soft">
            Ink
            <input
              type="color"
              aria-label="Colour of the ink"
              value={contact.ink}
              onChange={(event) => change({ ink: event.target.value })}
              className="h-6 w-9 bg-well"
            />
          </label>
          <Tick on={contact.mirrored} onTick={(mirrored) => change({ mirrored })}>
            Mirrored
          </Tick>
          <Tick on={contact.marked} onTick={(marked) => change({ marked })}>
            Marks and wedge
          </Tick>
          <Link href="/contact" className="text-note text-soft underline hover:text-ink">
            Measure a process…
          </Link>
        </>
      )}
    </Field>
  );
}
