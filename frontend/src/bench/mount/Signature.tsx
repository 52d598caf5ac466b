import { useRef, useState } from "react";
import { api, fieldOf, fieldOfKind } from "../../api/client";
import type { Inscription } from "../../api/types";
import { Button } from "../../parts/Button";
import { Segments } from "../../parts/Segments";
import { useBenchStore, useTray } from "../../state/bench";
import { alone } from "../../state/sheets";
import { KindSlider } from "../trays/parts";
import { Pad } from "./Pad";

const MOST_BYTES = 8 << 20;
const WHAT = { typed: "Typed", edition: "Edition", ink: "Signature" };

/** What is written on the print: typed, drawn, from a file, and the number of its edition. */
export function Signature() {
  const { recipe, schema, change } = useTray();
  const store = useBenchStore();
  const { inscriptions, edition_number: number, edition_of: of } = recipe.mount;
  const [chosen, choose] = useState<number | null>(inscriptions.length ? 0 : null);
  const [drawing, setDrawing] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const most = fieldOf(schema, "mount", "inscriptions").maxItems ?? 0;
  const put = (next: Inscription[], label?: string) =>
    change("mount", { inscriptions: next }, label);
  const set = (index: number, values: Partial<Inscription>, label?: string) =>
    put(
      inscriptions.map((each, i) => (i === index ? { ...each, ...values } : each)),
      label,
    );
  const add = (values: Partial<Inscription> & Pick<Inscription, "what">) => {
    const home = (name: string) => fieldOfKind(schema, "Inscription", name).default as never;
    const plain: Inscription = {
      what: "typed",
      text: "",
      font: home("font"),
      ink: null,
      height: home("height"),
      pen: home("pen"),
      on: home("on"),
      at: home("at"),
      dx: 0,
      dy: 0,
      tone: home("tone"),
    };
    put([...inscriptions, { ...plain, ...values }], WHAT[values.what]);
    choose(inscriptions.length);
  };
  const read = async (file: File) => {
    try {
      if (file.size > MOST_BYTES)
        throw new Error(
          `${file.name} has ${Math.round(file.size / 2 ** 20)} MB; a signature has at most 8 MB. Make the picture smaller.`,
        );
      add({ what: "ink", ink: alone("inks", await api.ink(file))[0] ?? null, height: 12 });
    } catch (error) {
      store.getState().tell(error);
    }
  };
  const full = inscriptions.length >= most;
  return (
    <>
      <ul aria-label="Inscriptions" data-control="mount.inscriptions">
        {inscriptions.map((each, index) => (
          <li
            key={index}
            className={`border-line border-b ${index === chosen ? "-mx-1.5 rounded bg-well px-1.5 pb-1.5" : ""}`}
          >
            <button
              type="button"
              aria-expanded={index === chosen}
              onClick={() => choose(index === chosen ? null : index)}
              className="flex w-full items-baseline gap-2.5 py-1.5 text-left text-[12.5px]"
            >
              <span className="font-medium">{WHAT[each.what]}</span>
              <span className="min-w-0 grow truncate text-note text-soft">
                {each.what === "typed" && each.text}
                {each.what === "edition" &&
                  (number ? `${number}${of ? `/${of}` : ""}` : "none yet")}
              </span>
              <span className="text-note text-soft">{each.on}</span>
            </button>
            {index === chosen && (
              <Words
                each={each}
                set={(values, label) => set(index, values, label)}
                onRemove={() => {
                  put(inscriptions.toSpliced(index, 1), `No ${WHAT[each.what].toLowerCase()}`);
                  choose(null);
                }}
              />
            )}
          </li>
        ))}
      </ul>
      {drawing ? (
        <Pad
          onDone={(ink) => {
            setDrawing(false);
            if (ink) add({ what: "ink", ink: alone("inks", ink)[0] ?? null, height: 12 });
          }}
        />
      ) : full ? (
        <p className="mt-2 text-note text-soft">{most} inscriptions: no more fit.</p>
      ) : (
        <div className="mt-2 flex flex-wrap gap-1.5">
          <Button onClick={() => add({ what: "typed", text: "Untitled" })}>+ Typed</Button>
          <Button title="By pointer or pen" onClick={() => setDrawing(true)}>
            + Drawn
          </Button>
          <Button
            title="A transparent PNG of your signature"
            onClick={() => picker.current?.click()}
          >
            + From a file…
          </Button>
          <Button
            onClick={() => {
              add({ what: "edition", font: "serif", height: 4, at: "left" });
            }}
          >
            + Edition
          </Button>
        </div>
      )}
      <input
        ref={picker}
        type="file"
        accept=".png,image/png"
        aria-label="Picture of a signature"
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) read(file);
          event.target.value = "";
        }}
      />
    </>
  );
}

interface WordsProps {
  each: Inscription;
  set: (values: Partial<Inscription>, label?: string) => void;
  onRemove: () => void;
}

function Words({ each, set, onRemove }: WordsProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const whole = (v: number) => v.toFixed(1);
  return (
    <>
      {each.what === "typed" && (
        <input
          aria-label="Text of the inscription"
          value={typed ?? each.text}
          maxLength={120}
          onChange={(event) => {
            setTyped(event.target.value);
            set({ text: event.target.value });
          }}
          onBlur={() => {
            if (typed !== null) set({ text: typed }, `Written: ${typed || "nothing"}`);
            setTyped(null);
          }}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          className="mb-1 w-full rounded-[3px] bg-panel px-2 py-1 text-[12.5px]"
        />
      )}
      {each.what === "edition" && <Edition />}
      {each.what !== "ink" && (
        <Row title="Lettering">
          <Segments
            label="Lettering"
            value={each.font}
            onChange={(font) => set({ font }, `Lettering ${font}`)}
            options={[
              { value: "hand", text: "hand" },
              { value: "serif", text: "italic" },
              { value: "sans", text: "sans" },
            ]}
          />
        </Row>
      )}
      <Row title="On">
        <Segments
          label="On"
          value={each.on}
          onChange={(on) => set({ on }, `On the ${on}`)}
          options={[
            { value: "picture", text: "picture" },
            { value: "border", text: "border" },
            { value: "mat", text: "mat" },
          ]}
        />
      </Row>
      <Row title="At">
        <Segments
          label="At"
          value={each.at}
          onChange={(at) => set({ at }, `At the ${at}`)}
          options={[
            { value: "left", text: "left" },
            { value: "middle", text: "middle" },
            { value: "right", text: "right" },
          ]}
        />
      </Row>
      {(["height", "dx", "dy", "tone"] as const).map((field) => (
        <KindSlider
          key={field}
          kind="Inscription"
          field={field}
          value={each[field]}
          show={field === "tone" ? (v) => String(Math.round(v)) : whole}
          onSet={(value, label) => set({ [field]: value }, label)}
        />
      ))}
      {each.what === "ink" && (
        <KindSlider
          kind="Inscription"
          field="pen"
          value={each.pen}
          show={whole}
          onSet={(pen, label) => set({ pen }, label)}
        />
      )}
      <div className="flex justify-end text-note text-faint">
        <button type="button" className="hover:text-ink" onClick={onRemove}>
          Take away
        </button>
      </div>
    </>
  );
}

const Row = ({ title, children }: { title: string; children: React.ReactNode }) => (
  <div className="mb-1 grid grid-cols-[72px_1fr] items-center gap-2 text-[12.5px] text-soft">
    {title}
    {children}
  </div>
);

/** The number of the print and how many there are. */
function Edition() {
  const { recipe, schema, change } = useTray();
  const most = fieldOf(schema, "mount", "edition_number").maximum;
  const field = (name: "edition_number" | "edition_of", title: string) => (
    <label
      className="flex items-center gap-1.5 text-[12.5px] text-soft"
      data-control={`mount.${name}`}
    >
      {title}
      <input
        type="number"
        min={0}
        max={most}
        value={recipe.mount[name]}
        onChange={(event) => {
          const value = Math.min(Math.max(Math.round(Number(event.target.value) || 0), 0), most);
          change("mount", { [name]: value }, `${title} ${value}`);
        }}
        className="w-16 rounded-[3px] bg-panel px-1.5 py-[3px] text-right text-ink"
      />
    </label>
  );
  return (
    <div className="mb-1.5 flex items-center gap-4">
      {field("edition_number", "Number")}
      {field("edition_of", "of")}
    </div>
  );
}
