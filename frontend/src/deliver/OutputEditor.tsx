import type { Output, OutputSets, Through } from "../api/types";
import { Choice, Field, Input, NumberInput, Tick } from "../parts/Field";
import { Segments } from "../parts/Segments";
import { Colours } from "./Colours";
import { ContactFields } from "./ContactFields";
import { asFormat, CHROMA, CONTACT, DEPTHS, FORMATS, LOSSY, SIZES } from "./outputs";
import { PageFields } from "./PageFields";
import { Says } from "./Says";

interface EditorProps {
  output: Output;
  profiles: OutputSets["profiles"];
  ranges: OutputSets["ranges"];
  onChange: (output: Output) => void;
  onPress?: (through: Through) => void;
}

const TOKENS = "roll number title print output capture date year camera film";

/** All that can be said of a file that is delivered. */
export function OutputEditor({ output, profiles, ranges, onChange, onPress }: EditorProps) {
  const set = (some: Partial<Output>) => onChange({ ...output, ...some });
  const size = (some: Partial<Output["size"]>) => set({ size: { ...output.size, ...some } });
  const { format, size: asked } = output;
  const by = SIZES.find(({ value }) => value === asked.by);
  const depths = DEPTHS[format];
  const printed = output.holds === "print";
  const inCells = format === "pdf" && output.page.columns !== null;
  return (
    <div className="flex flex-col gap-2.5">
      <Field title="File">
        <Choice
          label="File format"
          value={format}
          options={FORMATS.map(({ value, text, about }) => ({ value, text: `${text} – ${about}` }))}
          onPick={(next) => onChange(asFormat(output, next))}
          className="w-full"
        />
        {depths && output.holds !== "contact" && (
          <div className="w-36">
            <Segments
              label="Bits a channel"
              value={String(output.bits ?? depths[0])}
              onChange={(bits) => set({ bits: Number(bits) as 8 | 16 })}
              options={depths.map((d) => ({ value: String(d), text: `${d} bit` }))}
            />
          </div>
        )}
        {(format === "tiff" || format === "exr") && (
          <Tick
            on={output.compression === "deflate"}
            onTick={(on) => set({ compression: on ? "deflate" : "none" })}
          >
            Packed without loss
          </Tick>
        )}
        {format === "tiff" && (
          <Tick on={output.pyramid} onTick={(pyramid) => set({ pyramid })}>
            In tiles, with smaller pictures
          </Tick>
        )}
        {LOSSY.includes(format) && (
          <NumberInput
            label="Quality"
            range={ranges.quality}
            value={output.quality}
            unit="quality"
            className="w-14"
            onValue={(quality) => set({ quality: Math.round(quality) })}
          />
        )}
        {CHROMA.includes(format) && (
          <Tick
            on={output.chroma === "half"}
            onTick={(on) => set({ chroma: on ? "half" : "full" })}
          >
            Colour at half size
          </Tick>
        )}
        {format === "pdf" && (
          <>
            <NumberInput
              label="Bleed"
              range={ranges.bleed}
              value={output.bleed}
              unit="mm bleed"
              className="w-14"
              onValue={(bleed) => set({ bleed })}
            />
            <Tick on={output.marks} onTick={(marks) => set({ marks })}>
              Crop marks
            </Tick>
          </>
        )}
        {format === "exr" && (
          <Segments
            label="Holds"
            value={output.holds}
            onChange={(holds) => set({ holds })}
            options={[
              { value: "print", text: "Light of the print" },
              { value: "negative", text: "Density of the negative" },
            ]}
          />
        )}
      </Field>
      {format === "pdf" && <PageFields output={output} ranges={ranges} set={set} />}
      {inCells ? (
        <Field title="Size">
          <NumberInput
            label="Pixels an inch"
            range={ranges["size.ppi"]}
            value={asked.ppi}
            unit="ppi, as large as columns and rows give"
            className="w-16"
            onValue={(ppi) => size({ ppi })}
          />
        </Field>
      ) : (
        <Field title="Size">
          <Choice
            label="Size"
            value={asked.by}
            options={SIZES}
            onPick={(next) => {
              const start = SIZES.find(({ value }) => value === next)?.start ?? null;
              size({ by: next, value: start, height: next === "box" ? 1080 : null });
            }}
          />
          {asked.value !== null && (
            <NumberInput
              label={by?.text ?? "Size"}
              range={ranges[`size.${asked.by}`]}
              value={asked.value}
              unit={asked.by === "box" ? "×" : by?.unit}
              onValue={(value) => size({ value })}
            />
          )}
          {asked.height !== null && (
            <NumberInput
              label="Height"
              range={ranges["size.height"]}
              value={asked.height}
              unit="px"
              onValue={(height) => size({ height: Math.round(height) })}
            />
          )}
          {(asked.by === "mm" || asked.by === "enlargement") && (
            <NumberInput
              label="Pixels an inch"
              range={ranges["size.ppi"]}
              value={asked.ppi}
              unit="ppi"
              className="w-16"
              onValue={(ppi) => size({ ppi })}
            />
          )}
          {asked.by !== "full" && (
            <Tick
              on={asked.upscale}
              onTick={(upscale) => size({ upscale })}
              title="Where the capture has fewer pixels it is printed larger, with the film's own grain at that size"
            >
              Larger than the capture too
            </Tick>
          )}
        </Field>
      )}
      {CONTACT.includes(format) && <ContactFields output={output} set={set} />}
      {printed && <Colours output={output} profiles={profiles} set={set} onPress={onPress} />}
      {printed && (
        <Field title="Mount">
          <div className="w-52">
            <Segments
              label="Mount"
              value={output.mounted ? "mounted" : "alone"}
              onChange={(as) => set({ mounted: as === "mounted" })}
              options={[
                { value: "mounted", text: "As mounted" },
                { value: "alone", text: "Picture alone" },
              ]}
            />
          </div>
        </Field>
      )}
      <Field title="Name">
        <Input
          aria-label="Name of the file"
          title={`In braces: ${TOKENS}`}
          value={output.template}
          onChange={(event) => set({ template: event.target.value })}
          className="min-w-0 flex-1"
        />
        <Choice
          label="Where a file of that name is there"
          value={output.clash}
          options={[
            { value: "number", text: "number it" },
            { value: "ask", text: "ask" },
            { value: "replace", text: "replace" },
          ]}
          onPick={(clash) => set({ clash })}
        />
      </Field>
      <Field title="Folder">
        <Input
          aria-label="Folder"
          placeholder="the library’s own"
          value={output.folder ?? ""}
          onChange={(event) => set({ folder: event.target.value.trim() || null })}
          className="min-w-0 flex-1"
        />
      </Field>
      <Says output={output} set={set} />
    </div>
  );
}
