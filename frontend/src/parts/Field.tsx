import {
  type InputHTMLAttributes,
  type ReactNode,
  type SelectHTMLAttributes,
  useState,
} from "react";

const LOOK = "rounded-[3px] bg-well px-1.5 py-[3px] text-[12.5px] text-ink";

/** A row of a form: what it is, and what sets it. */
export const Field = ({ title, children }: { title: string; children: ReactNode }) => (
  <div className="grid grid-cols-[84px_1fr] items-start gap-2">
    <span className="pt-[3px] text-[12.5px] text-soft">{title}</span>
    <div className="flex min-w-0 flex-wrap items-center gap-x-2 gap-y-1.5">{children}</div>
  </div>
);

export const Input = ({ className = "", ...rest }: InputHTMLAttributes<HTMLInputElement>) => (
  <input className={`${LOOK} ${className}`} {...rest} />
);

interface ChoiceProps<T extends string>
  extends Omit<SelectHTMLAttributes<HTMLSelectElement>, "onChange" | "value"> {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onPick: (value: T) => void;
}

/** One of several, from a list that opens. */
export function Choice<T extends string>(props: ChoiceProps<T>) {
  const { label, value, options, onPick, className = "", ...rest } = props;
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onPick(event.target.value as T)}
      className={`${LOOK} ${className}`}
      {...rest}
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.text}
        </option>
      ))}
    </select>
  );
}

/** Something that is so or not. */
export const Tick = (props: {
  on: boolean;
  onTick: (on: boolean) => void;
  children: ReactNode;
  title?: string;
}) => (
  <label title={props.title} className="flex items-center gap-1.5 text-[12.5px] text-soft">
    <input
      type="checkbox"
      checked={props.on}
      onChange={(event) => props.onTick(event.target.checked)}
      className="accent-amber"
    />
    {props.children}
  </label>
);

/** A number that is typed; an empty one, or one that cannot be, changes nothing. */
export function NumberInput(props: {
  label: string;
  value: number;
  unit?: string;
  range?: readonly number[];
  className?: string;
  onValue: (value: number) => void;
}) {
  const { label, value, unit, range = [], className = "w-20", onValue } = props;
  const [low = Number.NEGATIVE_INFINITY, high = Number.POSITIVE_INFINITY] = range;
  const [typed, setTyped] = useState<string | null>(null); // as long as it cannot be
  return (
    <span className="flex items-center gap-1 text-[12.5px] text-soft">
      <Input
        type="number"
        step="any"
        aria-label={label}
        aria-invalid={typed !== null}
        value={typed ?? value}
        onChange={(event) => {
          const next = event.target.valueAsNumber;
          const holds = next >= low && next <= high;
          setTyped(holds ? null : event.target.value);
          if (holds) onValue(next);
        }}
        onBlur={() => setTyped(null)}
        className={`${className} aria-invalid:outline aria-invalid:outline-loss`}
      />
      {unit}
      {typed && range.length > 0 && (
        <span role="alert" className="text-loss">
          {low} to {high}
        </span>
      )}
    </span>
  );
}
