/** What the colours of the heat picture say, as `core/render/shown.py` lays them. */

const MOST = 1.5; // stops
const [COLD, HOT] = [
  [70, 128, 196],
  [226, 112, 40],
] as const;
const GROUND = 78;
const STEPS = [-1.5, -1, -0.5, -0.25, 0, 0.25, 0.5, 1, 1.5];

const colourOf = (stops: number) => {
  const part = 0.85 * Math.sqrt(Math.min(Math.abs(stops) / MOST, 1));
  return `rgb(${(stops < 0 ? COLD : HOT).map((c) => Math.round(GROUND + (c - GROUND) * part))})`;
};

export function HeatLegend() {
  return (
    <figure
      aria-label="Stops by colour"
      className="pointer-events-none absolute top-3 left-1/2 z-20 -translate-x-1/2 rounded-[3px] bg-[#161616e0] px-2 py-1.5 text-small text-ink"
    >
      <div className="flex gap-px">
        {STEPS.map((stops) => (
          <span key={stops} className="w-9 text-center">
            <span className="block h-3" style={{ background: colourOf(stops) }} />
            {stops > 0 ? "+" : stops < 0 ? "−" : ""}
            {String(Math.abs(stops)).replace("0.25", "¼").replace("0.5", "½").replace("1.5", "1½")}
          </span>
        ))}
      </div>
      <figcaption className="flex justify-between text-faint">
        <span>held back</span>
        <span>stops</span>
        <span>burned</span>
      </figcaption>
    </figure>
  );
}
