import type { Output, OutputSets } from "../api/types";
import { Choice, Field, NumberInput, Tick } from "../parts/Field";
import { PAPERS } from "../parts/papers";

type Page = Output["page"];
const BOOK = "{roll} {output}";
const FIT = "fit";
const LAID: { value: string; text: string }[] = [
  { value: FIT, text: "at their size, as many as fit" },
  ...["1×1", "2×1", "1×2", "2×2", "2×3", "3×3", "3×4", "4×5"].map((value) => ({
    value,
    text: value === "1×1" ? "one, as large as fits" : `${value.replace("×", " across, ")} down`,
  })),
];

/** What the pages of a PDF are, and how prints lie on them. */
export function PageFields(props: {
  output: Output;
  ranges: OutputSets["ranges"];
  set: (some: Partial<Output>) => void;
}) {
  const { output, ranges, set } = props;
  const { page } = output;
  const change = (some: Partial<Page>) => set({ page: { ...page, ...some } });
  const laid = page.columns === null ? FIT : `${page.columns}×${page.rows}`;
  const known = LAID.some(({ value }) => value === laid)
    ? LAID
    : [...LAID, { value: laid, text: `${page.columns} across, ${page.rows} down` }];
  return (
    <Field title="Pages">
      <Choice
        label="Paper"
        value={page.paper}
        options={[{ value: "print", text: "As large as the print" }, ...PAPERS]}
        onPick={(paper) =>
          change({ paper, ...(paper === "print" && { columns: null, rows: null }) })
        }
      />
      {page.paper !== "print" && (
        <>
          <Tick on={page.lying} onTick={(lying) => change({ lying })}>
            Lying
          </Tick>
          <Choice
            label="Prints on a page"
            value={laid}
            options={output.holds === "contact" ? LAID.slice(0, 1) : known}
            onPick={(next) => {
              const [columns, rows] = next === FIT ? [null, null] : next.split("×").map(Number);
              change({ columns, rows });
            }}
          />
          <NumberInput
            label="Margin"
            range={ranges["page.margin"]}
            value={page.margin}
            unit="mm margin"
            className="w-14"
            onValue={(margin) => change({ margin })}
          />
          <NumberInput
            label="Gap"
            range={ranges["page.gap"]}
            value={page.gap}
            unit="mm between"
            className="w-14"
            onValue={(gap) => change({ gap })}
          />
        </>
      )}
      <Tick
        on={page.together}
        onTick={(together) =>
          set({
            page: { ...page, together },
            ...(together && output.template.includes("{title}") && { template: BOOK }),
          })
        }
        title="Every print of the order on pages of one file, in order, each with its recipe"
      >
        All prints in one file
      </Tick>
    </Field>
  );
}
