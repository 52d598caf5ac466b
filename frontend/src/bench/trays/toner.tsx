import type { Recipe } from "../../api/client";
import { useTray } from "../../state/bench";
import { TonerPlot } from "../plots/toner";
import type { Station } from "../station";
import { Baths } from "../toning/Baths";
import { bathsOf } from "../toning/kinds";
import { TonalStops } from "../toning/TonalStops";
import { ToningSets } from "../toning/ToningSets";
import { Wash } from "../toning/Wash";
import { PartChoice } from "./PartChoice";

/** The Toner station: baths one after another, colours at places of the scale, washes. */
function TonerControls() {
  const part = useTray().parts.toner;
  return (
    <>
      <PartChoice station="toner" />
      {part === "baths" && <Baths />}
      {part === "stops" && <TonalStops />}
      {part === "colour" && <Wash />}
      <ToningSets />
    </>
  );
}

function says({ toner }: Recipe): string {
  const found = [bathsOf(toner)];
  if (toner.shadow_wash || toner.light_wash) found.push("washed");
  if (toner.capture_colour || toner.colour_bands.length) found.push("capture's colour");
  const said = found.filter(Boolean).join(" · ");
  return said ? said[0]?.toUpperCase() + said.slice(1) : "None";
}

export const station: Station = {
  title: "Toner",
  about: "The silver changes colour, bath after bath.",
  plot: TonerPlot,
  says,
  Controls: TonerControls,
  ring: ["toner.warmth", null],
};
