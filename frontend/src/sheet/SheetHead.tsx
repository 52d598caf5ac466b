import type { Roll } from "../api/client";
import { Segments } from "../parts/Segments";
import { ORDERS, type Order } from "./order";
import { RollTitle } from "./RollTitle";
import type { useSheet } from "./useSheet";

/** How the frames of a roll are looked at. */
export interface Look {
  show: "colour" | "printed";
  search: string;
  order: Order;
}

interface HeadProps {
  sheet: ReturnType<typeof useSheet>;
  roll: Roll | undefined;
  /** How many frames are shown. */
  shown: number;
  look: Look;
  onLook: (look: Partial<Look>) => void;
  onBin: () => void;
}

/** The roll's name, and how its frames are looked at. */
export function SheetHead({ sheet, roll, shown, look, onLook, onBin }: HeadProps) {
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <RollTitle
        roll={roll}
        shown={shown}
        onRename={(name) => sheet.rename.mutate(name)}
        onBin={onBin}
      />
      <input
        type="search"
        aria-label="Search in names, camera, lens, date"
        placeholder="Search"
        maxLength={200}
        value={look.search}
        onChange={(event) => onLook({ search: event.target.value })}
        className="ml-auto w-36 self-center rounded-[3px] bg-well px-2 py-[3px] text-[12.5px]"
      />
      <select
        aria-label="Order"
        value={look.order}
        onChange={(event) => onLook({ order: event.target.value as Order })}
        className="self-center rounded-[3px] bg-well px-1.5 py-[3px] text-[12.5px]"
      >
        {ORDERS.map((o) => (
          <option key={o.value} value={o.value}>
            {o.text}
          </option>
        ))}
      </select>
      <div className="w-40 shrink-0 self-center">
        <Segments
          label="Show frames"
          value={look.show}
          onChange={(show) => onLook({ show })}
          options={[
            { value: "colour", text: "Colour" },
            { value: "printed", text: "As printed" },
          ]}
        />
      </div>
    </div>
  );
}
