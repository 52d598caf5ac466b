import type { Recipe } from "../../api/client";
import { useTray } from "../../state/bench";
import { Border } from "../mount/Border";
import { Mat } from "../mount/Mat";
import { Sharpness } from "../mount/Sharpness";
import { Signature } from "../mount/Signature";
import { MountPlot } from "../plots/mount";
import type { Station } from "../station";
import { PartChoice } from "./PartChoice";

/** The Mount station. */
function MountControls() {
  const part = useTray().parts.mount;
  return (
    <>
      <PartChoice station="mount" />
      {part === "paper" && <Border />}
      {part === "mat" && <Mat />}
      {part === "signature" && <Signature />}
      {part === "sharpness" && <Sharpness />}
    </>
  );
}

function says({ mount }: Recipe): string {
  const found = [`${Math.round(mount.size)} mm`];
  const sides = [mount.border_left, mount.border_top, mount.border_right, mount.border_bottom];
  if (mount.edge !== "clean") found.push(mount.edge === "filed" ? "filed edge" : "rebate");
  else if (sides.some(Boolean)) found.push("border");
  if (mount.mat !== "none") found.push("mat");
  if (mount.inscriptions.length) found.push("signed");
  if (mount.sharpen) found.push("sharpened");
  return found.join(" · ");
}

export const station: Station = {
  title: "Mount",
  about: "The finished thing, in millimetres.",
  plot: MountPlot,
  below: () => null,
  says,
  Controls: MountControls,
};
