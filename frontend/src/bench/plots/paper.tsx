import { memo } from "react";
import { Plot } from "../../parts/Plot";
import { reaching, ticksTo } from "../../parts/reaching";
import type { StationPlot } from "../station";
import { CARD } from "./axes";

export const PaperPlot = memo(function PaperPlot({ facts, small }: StationPlot) {
  const top = reaching([facts.paper], 1.2, 2.25);
  return (
    <Plot
      {...(small ? CARD : {})}
      small={small}
      label="Curve of the paper at its grade"
      x={{
        from: -1.4,
        to: 1.2,
        ticks: [-1, -0.5, 0, 0.5, 1],
        label: "log exposure of the paper",
        text: (v) => String(v).replace("-", "−"),
      }}
      y={{ from: 0, to: top, ticks: ticksTo(top, 1), label: "print density" }}
      lines={[{ curve: facts.paper }]}
    />
  );
});
