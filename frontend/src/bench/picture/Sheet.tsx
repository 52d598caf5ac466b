/** An easel leaves a quarter inch round a print; of 30 cm on the long side. */
const EASEL = 0.635 / 30;

interface SheetProps {
  tone: string;
  margin: number;
  at: { left: number; top: number; width: number; height: number };
}

/** The sheet of paper round a print, with the margin an easel leaves. */
export function Sheet({ tone, margin, at }: SheetProps) {
  const ratio = window.devicePixelRatio;
  const edge = (EASEL * Math.max(at.width, at.height)) / ratio;
  return (
    <div
      aria-hidden="true"
      className="absolute shadow-[0_1px_6px_#0003]"
      style={{
        background: tone,
        left: margin + at.left / ratio - edge,
        top: margin + at.top / ratio - edge,
        width: at.width / ratio + 2 * edge,
        height: at.height / ratio + 2 * edge,
      }}
    />
  );
}
