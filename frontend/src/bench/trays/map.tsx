import { useEffect, useRef } from "react";
import type { Pass } from "../../api/client";
import { Button } from "../../parts/Button";
import { useBench, useBenchStore } from "../../state/bench";
import { seconds, share } from "../../wording/format";
import { Held, PassControls } from "../map/PassControls";
import { letterOf, nameOf, proposedName, saidSeconds, usePasses, usePassList } from "../map/passes";
import { Tools } from "../map/Tools";
import { Heading, HoldToSee } from "./parts";

const WORTH_SAYING = 0.002;

/** Part of the Enlarger: all that is dodged and burned, in order. */
export function PrintingMap() {
  const store = useBenchStore();
  const passes = usePassList();
  const { chosen, base } = useBench(({ pass, facts }) => ({
    chosen: pass,
    base: facts?.time ?? 12,
  }));
  const pass = chosen === null ? undefined : passes[chosen];
  return (
    <>
      <div data-control="enlarger.passes">
        <Tools />
      </div>
      <Heading aside={passes.length ? `base ${seconds(base)} s` : "nothing yet"}>
        Printing map
      </Heading>
      <ul
        aria-label="Passes"
        className="flex max-h-[152px] shrink-0 flex-col gap-px overflow-y-auto"
      >
        {passes.map((each, index) => (
          // by place: the order is what printers go by
          <Row key={index} pass={each} index={index} base={base} />
        ))}
      </ul>
      <Piled />
      {pass && chosen !== null && <PassControls pass={pass} index={chosen} base={base} />}
      <div className="mt-2.5 flex flex-wrap gap-1.5">
        {passes.length > 0 && (
          <>
            <Held peek="areas" hint="A" title="All areas, while it is held (A)">
              Areas
            </Held>
            <Held peek="heat" hint="S" title="All of it in stops, while it is held (S)">
              Stops
            </Held>
            <Held peek="base" hint="U" title="The base exposure alone, while it is held (U)">
              Base
            </Held>
          </>
        )}
        <Button
          title="The sequence of exposures under the enlarger"
          onClick={() => store.setState({ shown: { kind: "timed", exposed: 0 } })}
        >
          Timer…
        </Button>
        <Button onClick={() => store.setState({ dialog: "notes" })}>Notes…</Button>
        {passes.length > 0 && (
          <Button
            title="Copy the passes to other frames"
            onClick={() => store.setState({ dialog: "carry" })}
          >
            To frames…
          </Button>
        )}
      </div>
    </>
  );
}

/** Where passes of no group add up to more than a stop. */
function Piled() {
  const part = useBench(({ reading }) => reading?.piled ?? 0);
  if (part < WORTH_SAYING) return null;
  return (
    <div className="mt-1">
      <HoldToSee peek="piled" title="There passes of no common group lie on each other">
        <span className="text-amber">More than a stop in all: {share(part)}</span>
      </HoldToSee>
    </div>
  );
}

function Row({ pass, index, base }: { pass: Pass; index: number; base: number }) {
  const store = useBenchStore();
  const chosen = useBench((bench) => bench.pass === index);
  const { change, shift } = usePasses();
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  return (
    <li
      ref={row}
      onPointerEnter={() => store.setState({ hatched: index })}
      onPointerLeave={() => store.setState({ hatched: null })}
      className={`grid grid-cols-[20px_1fr_auto_auto] items-center gap-2 rounded-[3px] px-1.5 py-0.5 text-[12.5px] ${
        chosen ? "bg-raise" : "hover:bg-[#242424]"
      } ${pass.on ? "" : "text-faint"}`}
    >
      <b
        className={`rounded-[2px] text-center text-note font-[620] ${
          chosen ? "bg-amber text-black" : pass.on ? "bg-ink text-black" : "bg-lift text-soft"
        }`}
      >
        {letterOf(index)}
      </b>
      <button
        type="button"
        aria-pressed={chosen}
        onClick={() => store.setState({ pass: chosen ? null : index })}
        onKeyDown={(event) => {
          const way = { ArrowUp: -1, ArrowDown: 1 }[event.key] as 1 | -1 | undefined;
          if (!way || !event.altKey) return;
          event.preventDefault();
          shift(index, way);
        }}
        className="truncate text-left"
      >
        {pass.name || proposedName(pass)}
        {pass.group > 0 && <span className="text-faint"> · {pass.group}</span>}
      </button>
      <span>{saidSeconds(pass, base)}</span>
      <input
        type="checkbox"
        checked={pass.on}
        aria-label={`${nameOf(pass, index)} on`}
        onChange={() =>
          change(index, { on: !pass.on }, `${nameOf(pass, index)} ${pass.on ? "off" : "on"}`)
        }
        className="accent-amber"
      />
    </li>
  );
}
