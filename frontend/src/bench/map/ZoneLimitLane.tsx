import { Slider } from "radix-ui";
import { useBench } from "../../state/bench";
import { roman } from "../../wording/format";
import { nameOf, usePasses, usePassList } from "./passes";

/** Over the zone staff: the range of zones that the chosen pass is limited to, its ends to drag. */
export function ZoneLimitLane() {
  const chosen = useBench((bench) => bench.pass);
  const pass = usePassList()[chosen ?? -1];
  const { change } = usePasses();
  if (!pass?.zones || chosen === null) return null;
  const { zones } = pass;
  const set = ([first = 0, last = 10]: number[], done: boolean) =>
    change(
      chosen,
      { zones: { ...zones, first: kept(first), last: kept(last) } },
      done ? `${nameOf(pass, chosen)}: zones ${first.toFixed(1)} to ${last.toFixed(1)}` : undefined,
    );
  return (
    <div className="border-t border-black bg-ground px-3.5 pt-2">
      <Slider.Root
        value={[zones.first, zones.last]}
        // the middle of a zone stands over its own
        min={-0.5}
        max={10.5}
        step={0.1}
        onValueChange={(ends) => set(ends, false)}
        onValueCommit={(ends) => set(ends, true)}
        className="relative flex h-4 cursor-pointer touch-none items-center select-none"
        title="The zones that this pass is limited to"
      >
        <Slider.Track className="relative h-px grow bg-[#4a4a4a]">
          <Slider.Range className="absolute -top-px h-[3px] bg-amber" />
        </Slider.Track>
        {[zones.first, zones.last].map((end, i) => (
          <Slider.Thumb
            key={i ? "last" : "first"}
            aria-label={i ? "Lightest zone of the pass" : "Darkest zone of the pass"}
            aria-valuetext={`Zone ${roman(Math.round(end))}`}
            className="block h-3.5 w-[5px] rounded-[1.5px] bg-amber"
          />
        ))}
      </Slider.Root>
    </div>
  );
}

const kept = (zone: number) => Math.min(Math.max(zone, 0), 10);
