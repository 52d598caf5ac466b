import { Segments } from "../../parts/Segments";
import { useBench, useTray } from "../../state/bench";
import { Heading, StationSlider } from "../trays/parts";
import { glassFor, mm } from "./sizes";

const BOARDS: [string, string][] = [
  ["#f6f3ea", "ivory"],
  ["#fbfbfa", "white"],
  ["#dedad0", "stone"],
  ["#8c8a86", "grey"],
  ["#20201f", "black"],
];

/** A mat with its window, the ground about it. */
export function Mat() {
  const { recipe, change } = useTray();
  const { mount } = recipe;
  const mounted = useBench((bench) => bench.header?.mounted);
  const whole = (v: number) => String(Math.round(v));
  return (
    <>
      <Segments
        label="Mat"
        control="mount.mat"
        value={mount.mat}
        onChange={(mat) => change("mount", { mat }, MATS[mat])}
        options={[
          { value: "none", text: "none" },
          { value: "equal", text: "equal" },
          { value: "weighted", text: "weighted" },
          { value: "own", text: "own" },
        ]}
      />
      {mount.mat !== "none" && (
        <>
          <div className="mt-1.5">
            <StationSlider
              station="mount"
              field="mat_sides"
              title={mount.mat === "own" ? "Sides" : "Sides, top"}
              show={whole}
              label={(v) => `Mat ${whole(v)} mm`}
            />
            {mount.mat === "own" &&
              (["mat_top", "mat_below"] as const).map((field) => (
                <StationSlider
                  key={field}
                  station="mount"
                  field={field}
                  show={whole}
                  label={(v) => `Mat ${field === "mat_top" ? "above" : "below"} ${whole(v)} mm`}
                />
              ))}
          </div>
          <Board field="board" title="Board" />
          <StationSlider
            station="mount"
            field="bevel"
            show={(v) => v.toFixed(2)}
            label={(v) => `Bevel ${v.toFixed(2)} mm`}
          />
          <StationSlider
            station="mount"
            field="undermat"
            show={(v) => v.toFixed(1)}
            label={(v) => (v ? `Under mat ${v.toFixed(1)} mm` : "No under mat")}
          />
          {mount.undermat > 0 && <Board field="undermat_colour" title="Its board" />}
        </>
      )}
      <Heading>Ground</Heading>
      <StationSlider
        station="mount"
        field="ground"
        title="Width"
        show={whole}
        label={(v) => (v ? `Ground ${whole(v)} mm` : "No ground")}
      />
      {mount.ground > 0 && (
        <StationSlider
          station="mount"
          field="ground_tone"
          title="Tone"
          show={whole}
          label={(v) => `Ground L* ${whole(v)}`}
        />
      )}
      {mounted && (
        <p role="status" className="mt-3 text-note text-soft">
          Outside {mm(mounted.whole)}: {glassFor(mounted.whole)}.
        </p>
      )}
    </>
  );
}

const MATS = { none: "No mat", equal: "Equal mat", weighted: "Mat weighted below", own: "Own mat" };

/** A board of the shelf or of any colour. */
function Board({ field, title }: { field: "board" | "undermat_colour"; title: string }) {
  const { recipe, change } = useTray();
  const now = recipe.mount[field];
  const known = BOARDS.find(([colour]) => colour === now);
  const set = (colour: string, name?: string) =>
    change("mount", { [field]: colour }, name && `${title} ${name}`);
  return (
    <div
      data-control={`mount.${field}`}
      className="grid h-[27px] grid-cols-[92px_1fr_64px] items-center gap-2 text-[12.5px] text-soft"
    >
      {title}
      <span className="flex items-center gap-1">
        {BOARDS.map(([colour, name]) => (
          <button
            key={colour}
            type="button"
            aria-pressed={colour === now}
            aria-label={`${title}: ${name}`}
            title={name}
            onClick={() => set(colour, name)}
            className={`h-4 w-[18px] rounded-[1px] border ${colour === now ? "border-amber" : "border-[#4a4a4a]"}`}
            style={{ background: colour }}
          />
        ))}
      </span>
      <label className="flex items-center justify-end gap-1 text-ink">
        <span className="truncate">{known?.[1] ?? "own"}</span>
        <input
          type="color"
          aria-label={`${title}: own colour`}
          title="A colour of your own"
          value={now}
          onChange={(event) => set(event.target.value)}
          onBlur={(event) => event.target.value !== now && set(event.target.value, "own")}
          className="h-4 w-4 shrink-0 cursor-pointer border-0 bg-transparent p-0"
        />
      </label>
    </div>
  );
}
