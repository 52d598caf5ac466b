import { memo } from "react";
import { Plot } from "../../parts/Plot";
import type { StationPlot } from "../station";
import { CARD } from "./axes";

export const PaperPlot = memo(function PaperPlot({ facts, small }: StationPlot) {
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
      y={{ from: 0, to: 2.25, ticks: [0, 1, 2], label: "print density" }}
      lines={[{ curve: facts.paper }]}
    />
  );
});
