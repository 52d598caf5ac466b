import type { ReactNode } from "react";
import {
  type Field,
  fieldOf,
  fieldOfKind,
  itemOf,
  type Recipe,
  type StationName,
} from "../../api/client";
import { Slider, type SliderProps } from "../../parts/Slider";
import { type Peek, useBench, useBenchStore, useTray } from "../../state/bench";
import { signed } from "../../wording/format";

export function Heading({ children, aside }: { children: ReactNode; aside?: ReactNode }) {
  return (
    <h2 className="mt-4 mb-1.5 flex items-baseline justify-between text-note font-[560] first:mt-0">
      {children}
      {aside && <span className="font-normal text-soft">{aside}</span>}
    </h2>
  );
}

type StationSliderProps<S extends StationName> = {
  station: S;
  field: keyof Recipe[S] & string;
  /** Instead of the recipe's own. */
  value?: number;
  /** What undo calls the change. */
  label: (value: number) => string;
  /** What the recipe keeps of a value. */
  keep?: (value: number) => number | null;
  /** Instead of the field's own. */
  title?: string;
} & Partial<
  Pick<SliderProps, "min" | "max" | "step" | "home" | "scale" | "show" | "read" | "unit">
>;

/** A slider of a field of the recipe; its range, step, unit and words are those of the field. */
export function StationSlider<S extends StationName>(props: StationSliderProps<S>) {
  const { station, field: name, label, title, keep = (value) => value, ...slider } = props;
  const tray = useBench(({ schema, recipe, change }) => ({
    schema,
    change,
    value: recipe[station][name],
  }));
  const field = fieldOf(tray.schema, station, name);
  const kept = (value: number) => ({ [name]: keep(value) }) as Partial<Recipe[S]>;
  return (
    <Slider
      label={title ?? field.title}
      control={`${station}.${name}`}
      description={field.description}
      min={field.minimum}
      max={field.maximum}
      step={field.step}
      home={Number(field.default)}
      unit={field.unit}
      {...slider}
      // what is not set stands where it is at home
      value={slider.value ?? Number(tray.value ?? slider.home ?? field.default)}
      onPreview={(value) => tray.change(station, kept(value))}
      onCommit={(value) => tray.change(station, kept(value), label(value))}
    />
  );
}

/** A slider of a field of something that a recipe has several of; its range, step, unit and words
 * are those of the field. */
export function KindSlider({
  kind,
  field,
  value,
  onSet,
  title,
  home,
  show = (v) => signed(v, 2),
  read,
  scale = 1,
}: {
  kind: string;
  field: string;
  value: number;
  /** With a label when it is done. */
  onSet: (value: number, said?: string) => void;
  title?: string;
  home?: number;
  show?: (value: number) => string;
  read?: (text: string) => number;
  /** What it is shown times. */
  scale?: number;
}) {
  const schema = useBench((bench) => bench.schema);
  const of = fieldOfKind(schema, kind, field);
  const label = title ?? of.title;
  return (
    <Slider
      label={label}
      description={of.description}
      value={scale * value}
      min={scale * of.minimum}
      max={scale * of.maximum}
      step={scale * of.step}
      home={scale * (home ?? Number(of.default))}
      unit={scale === 100 ? "%" : of.unit}
      show={show}
      {...(read && { read })}
      onPreview={(v) => onSet(v / scale)}
      onCommit={(v) => onSet(v / scale, `${label} ${show(v)}`)}
    />
  );
}

interface StationChoiceProps<S extends StationName> {
  station: S;
  field: keyof Recipe[S] & string;
  value: string;
  text?: (value: string) => string;
}

/** A choice of a field of the recipe, from the values its model allows. */
export function StationChoice<S extends StationName>(props: StationChoiceProps<S>) {
  const { station, field: name, value, text = (v) => v } = props;
  const tray = useTray();
  const field = fieldOf(tray.schema, station, name);
  return (
    <label
      className="grid h-[27px] grid-cols-[92px_1fr] items-center gap-2 text-[12.5px] text-soft"
      data-control={`${station}.${name}`}
      title={field.description}
    >
      {field.title}
      <select
        value={value}
        onChange={(event) => {
          const next = event.target.value;
          tray.change(
            station,
            { [name]: next } as Partial<Recipe[S]>,
            `${field.title}: ${text(next)}`,
          );
        }}
        className="min-w-0 rounded-[3px] border border-transparent bg-well px-1.5 py-[3px] text-ink hover:border-lift"
      >
        {field.enum?.map((option) => (
          <option key={option} value={option}>
            {text(option)}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The scale of times and speeds. */
export const LOG2 = { to: Math.log2, from: (place: number) => 2 ** place };

interface StepsProps<S extends StationName> {
  station: S;
  field: keyof Recipe[S] & string;
  values: number[];
  names: readonly string[];
  /** What each is, e.g. "Zone". */
  what: string;
  show: (value: number) => string;
  /** What undo calls the change. */
  label: (name: string, value: number) => string;
}

/** A slider for each item of a list of the recipe, e.g. the lifts of eleven zones. */
export function StepSliders<S extends StationName>(props: StepsProps<S>) {
  const { station, field, values, names, what, show, label } = props;
  const { schema, change } = useTray();
  const home = fieldOf(schema, station, field).default as unknown as number[];
  const of: Field = itemOf(schema, station, field);
  const set = (index: number, value: number, said?: string) =>
    change(station, { [field]: values.with(index, value) } as Partial<Recipe[S]>, said);
  return names.map((name, index) => (
    <Slider
      key={name}
      control={`${station}.${field}`}
      label={`${what} ${name}`}
      value={values[index] ?? 0}
      min={of.minimum}
      max={of.maximum}
      step={of.step}
      home={Number(home[index] ?? 0)}
      unit={of.unit}
      show={show}
      onPreview={(v) => set(index, v)}
      onCommit={(v) => set(index, v, label(name, v))}
    />
  ));
}

/** Something that is said of the picture, and that is shown in it while it is held. */
export function HoldToSee({
  peek,
  title,
  children,
}: {
  peek: Peek;
  title: string;
  children: ReactNode;
}) {
  const store = useBenchStore();
  const on = (shown: boolean) => store.setState({ peek: shown ? peek : null });
  return (
    <p className="flex items-baseline justify-between gap-2 text-note">
      {children}
      <button
        type="button"
        title={`${title}. Hold to see where`}
        onPointerDown={() => on(true)}
        onPointerUp={() => on(false)}
        onPointerLeave={() => on(false)}
        onKeyDown={(event) => event.key === " " && on(true)}
        onKeyUp={() => on(false)}
        onBlur={() => on(false)}
        className="text-soft hover:text-ink"
      >
        Hold to see where
      </button>
    </p>
  );
}
