import { useBench } from "../../state/bench";

/** The mounted print in outline: ground and mat, paper, picture. */
export function MountPlot() {
  const sizes = useBench((bench) => bench.header?.mounted);
  const board = useBench(({ recipe }) => (recipe.mount.mat === "none" ? null : recipe.mount.board));
  if (!sizes) return null;
  const [wide = 1, tall = 1] = sizes.whole;
  const centred = ([width = 0, height = 0]: number[]) => ({
    x: (wide - width) / 2,
    y: (tall - height) / 2,
    width,
    height,
  });
  return (
    <svg
      role="img"
      aria-label="Outline of the mounted print"
      viewBox={`0 0 ${wide} ${tall}`}
      className="mt-0.5 h-9"
    >
      <rect width={wide} height={tall} fill={board ?? "#5a5a5a"} />
      <rect {...centred(sizes.paper)} fill="#ececec" />
      <rect {...centred(sizes.picture)} fill="#6e6e6e" />
    </svg>
  );
}
