import { useBench } from "../../state/bench";
import { share } from "../../wording/format";
import { HoldToSee } from "./parts";

const WORTH_SAYING = 0.005;

/** How much of the picture colour alone tells badly. */
export function Sureness() {
  const part = useBench(({ reading }) => reading?.unsure ?? 0);
  if (part < WORTH_SAYING) return null;
  return (
    <div className="mt-2 border-t border-line pt-1.5">
      <HoldToSee
        peek="unsure"
        title="There the film's exposure may be off by more than a third of a stop, since colour alone does not tell what the film sees"
      >
        <span className="text-soft">Unsure by ⅓ stop or more: {share(part)}</span>
      </HoldToSee>
    </div>
  );
}
