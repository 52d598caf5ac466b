import { memo, type ReactNode } from "react";
import { fieldOf, type Recipe } from "../../api/client";
import { Slider, type SliderProps } from "../../parts/Slider";
import { SPECTRUM, wavelengthColour } from "../../parts/spectrum";
import type { StationName } from "../../state/usePrint";
import type { TrayProps } from "./tray";

export function Heading({ children, aside }: { children: ReactNode; aside?: ReactNode }) {
  return (
    <h2 className="mt-4 mb-1.5 flex items-baseline justify-between text-note font-[560] first:mt-0">
      {children}
      {aside && <span className="font-normal text-soft">{aside}</span>}
    </h2>
  );
}

type StationSliderProps<S extends StationName> = {
  tray: TrayProps;
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
  const { tray, station, field: name, label, title, keep = (value) => value, ...slider } = props;
  const field = fieldOf(tray.schema, station, name);
  const kept = (value: number) => ({ [name]: keep(value) }) as Partial<Recipe[S]>;
  return (
    <Slider
      label={title ?? field.title}
      description={field.description}
      min={field.minimum}
      max={field.maximum}
      step={field.step}
      home={Number(field.default)}
      unit={field.unit}
      {...slider}
      value={slider.value ?? Number(tray.recipe[station][name] ?? field.default)}
      onPreview={(value) => tray.change(station, kept(value))}
      onCommit={(value) => tray.change(station, kept(value), label(value))}
    />
  );
}

interface StationChoiceProps<S extends StationName> {
  tray: TrayProps;
  station: S;
  field: keyof Recipe[S] & string;
  value: string;
  text?: (value: string) => string;
}

/** A choice of a field of the recipe, from the values its model allows. */
export function StationChoice<S extends StationName>(props: StationChoiceProps<S>) {
  const { tray, station, field: name, value, text = (v) => v } = props;
  const field = fieldOf(tray.schema, station, name);
  return (
    <label
      className="grid h-[27px] grid-cols-[88px_1fr] items-center gap-2 text-[12.5px] text-soft"
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

/** A spectrum as a small strip: what a filter passes, what a film sees. */
export const Glass = memo(function Glass({ transmittance }: { transmittance: number[] }) {
  const step = 72 / 52;
  return (
    <svg viewBox="0 0 72 16" className="mt-1 block w-full" aria-hidden="true">
      {SPECTRUM.slice(1).map((nm, i) => {
        const height = 16 * (transmittance[i + 1] ?? 0);
        return (
          <rect
            key={nm}
            x={i * step}
            y={16 - height}
            width={step + 0.3}
            height={height}
            fill={wavelengthColour(nm)}
          />
        );
      })}
    </svg>
  );
});
