import { Slider } from "../../parts/Slider";
import { useBench, useBenchStore } from "../../state/bench";

/** How far the print went from the one before to its starting print, and beyond. */
export function Strength() {
  const store = useBenchStore();
  const { name, strength } = useBench(({ recipe: { mixture } }) => ({
    name: mixture?.name,
    strength: mixture?.strength ?? 1,
  }));
  const set = (percent: number, keep: boolean) => {
    const { recipe, put } = store.getState();
    if (!recipe.mixture) return;
    const mixture = { ...recipe.mixture, strength: Math.round(percent) / 100 };
    const label = keep ? `${mixture.name} at ${Math.round(percent)} %` : undefined;
    put({ ...recipe, mixture }, "strength", label);
  };
  return (
    <Slider
      label="Strength"
      description={
        name && `0 %: the print as it was before. 100 %: ${name}. Above that it goes beyond.`
      }
      value={Math.round(strength * 100)}
      min={0}
      max={150}
      step={1}
      home={100}
      unit="%"
      onPreview={(percent) => set(percent, false)}
      onCommit={(percent) => set(percent, true)}
    />
  );
}
