import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import type { Through } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice, Tick } from "../../parts/Field";
import { useBench, useBenchStore } from "../../state/bench";
import { share } from "../../wording/format";

const INTENTS: { value: Through["intent"]; text: string }[] = [
  { value: "relative", text: "relative colorimetric" },
  { value: "perceptual", text: "perceptual" },
  { value: "saturation", text: "saturation" },
  { value: "absolute", text: "absolute colorimetric" },
];

/** Through which profile the print is seen, and what of it a press cannot give back. */
export function PressBar({ through }: { through: Through }) {
  const store = useBenchStore();
  const outside = useBench(({ header }) => header?.outside ?? null);
  const sets = useQuery({ queryKey: ["output-sets"], queryFn: api.outputSets });
  const set = (some: Partial<Through>) =>
    store.setState({ shown: { kind: "press", through: { ...through, ...some } } });
  return (
    <section
      aria-label="As a press prints it"
      className="absolute top-2 right-3 left-3 z-20 mx-auto flex max-w-[860px] flex-wrap items-center gap-x-3 gap-y-1 rounded bg-panel/95 px-3 py-1.5"
    >
      <span className="text-note text-soft">Printed through</span>
      <Choice
        label="Profile"
        value={through.profile}
        options={(sets.data?.profiles ?? []).map(({ id, name }) => ({ value: id, text: name }))}
        onPick={(profile) => set({ profile })}
        className="max-w-48"
      />
      <Choice
        label="Rendering intent"
        value={through.intent}
        options={INTENTS}
        onPick={(intent) => set({ intent })}
      />
      <Tick on={through.black_point} onTick={(black_point) => set({ black_point })}>
        Black point
      </Tick>
      <Tick
        on={through.paper}
        onTick={(paper) => set({ paper })}
        title="With the white and the black of the profile's own paper"
      >
        Its paper
      </Tick>
      <Tick on={through.outside} onTick={(outside) => set({ outside })}>
        What falls outside
      </Tick>
      <span role="status" className="text-note text-soft">
        {outside === null ? "" : `${share(outside)} outside`}
      </span>
      <Button className="ml-auto" onClick={() => store.setState({ shown: { kind: "print" } })}>
        Leave
      </Button>
    </section>
  );
}
