import type { Output } from "../api/types";
import { Field, Input, Tick } from "../parts/Field";

/** What a file says of itself. */
export function Says(props: { output: Output; set: (some: Partial<Output>) => void }) {
  const { output, set } = props;
  return (
    <Field title="Says">
      <Input
        aria-label="Creator"
        placeholder="Creator"
        value={output.creator}
        onChange={(event) => set({ creator: event.target.value })}
        className="w-36"
      />
      <Input
        aria-label="Copyright"
        placeholder="Copyright"
        value={output.rights}
        onChange={(event) => set({ rights: event.target.value })}
        className="min-w-0 flex-1"
      />
      <Input
        aria-label="Keywords, with commas between them"
        placeholder="Keywords, with commas between them"
        defaultValue={output.keywords.join(", ")}
        onBlur={(event) =>
          set({
            keywords: event.target.value
              .split(",")
              .map((word) => word.trim())
              .filter(Boolean),
          })
        }
        className="w-full"
      />
      <Tick on={output.camera} onTick={(camera) => set({ camera })}>
        What the camera wrote
      </Tick>
      <Tick on={output.location} onTick={(location) => set({ location })}>
        Where it was taken
      </Tick>
      <Tick
        on={output.recipe}
        onTick={(recipe) => set({ recipe })}
        title="Dropped on Silvrin, the file opens as its print"
      >
        The recipe inside
      </Tick>
      <Tick on={output.sidecar} onTick={(sidecar) => set({ sidecar })}>
        and beside it
      </Tick>
    </Field>
  );
}
