import type { Reading } from "../../api/client";
import { ROMAN, share } from "../../wording/format";

/** What something compared is, and what the meter says of it. */
export function Figures({ name, reading }: { name: string; reading: Reading | null }) {
  const most = Math.max(...(reading?.print_values ?? [1]));
  return (
    <div className="flex items-center gap-3 rounded-[2px] bg-[#111d] px-2 py-1 text-small text-ink">
      <b className="max-w-52 truncate font-medium">{name}</b>
      {reading && (
        <>
          <span className="flex h-4 items-end gap-px" role="img" aria-label={sharesOf(reading)}>
            {reading.print_values.map((part, value) => (
              <span
                key={ROMAN[value]}
                title={`Value ${ROMAN[value]}: ${share(part)}`}
                className="w-1.5 bg-[#bdbdbd]"
                style={{ height: `${Math.max(1, (part / most) * 16)}px` }}
              />
            ))}
          </span>
          <span className="whitespace-nowrap text-soft">
            black {share(reading.paper_black)} · white {share(reading.paper_white)}
          </span>
        </>
      )}
    </div>
  );
}

const sharesOf = ({ print_values }: Reading) =>
  `Print values: ${print_values.map((part, value) => `${ROMAN[value]} ${share(part)}`).join(", ")}`;
