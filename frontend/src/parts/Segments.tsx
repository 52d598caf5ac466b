import { ToggleGroup } from "radix-ui";

interface SegmentsProps<T extends string> {
  label: string;
  value: T | null;
  options: readonly { value: T; text: string }[];
  onChange: (value: T) => void;
  /** What they set, by station and field. */
  control?: string;
}

/** A row of choices of which one holds. */
export function Segments<T extends string>(props: SegmentsProps<T>) {
  const { label, value, options, onChange, control } = props;
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      data-control={control}
      value={value ?? ""}
      onValueChange={(next) => next && onChange(next as T)}
      className="flex rounded bg-well p-0.5"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          className="flex-1 rounded-[3px] px-1 py-[3px] text-note whitespace-nowrap text-soft hover:text-ink data-[state=on]:bg-lift data-[state=on]:text-ink"
        >
          {option.text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
