import { type ReactNode, useId, useLayoutEffect, useRef, useState } from "react";
import type { Curve } from "../api/client";
import { SPECTRUM, wavelengthColour } from "./spectrum";

export interface Axis {
  from: number;
  to: number;
  ticks?: number[];
  label?: string;
  text?: (value: number) => string;
}

export interface Line {
  curve: Curve;
  quiet?: boolean;
  dashed?: boolean;
  colour?: string;
  fill?: "spectrum" | "grey";
}

interface PlotProps {
  x: Axis;
  y: Axis;
  lines: Line[];
  /** What the plot shows, for those who cannot see it. */
  label: string;
  /** On a station card: no axis text. */
  small?: boolean;
  width?: number;
  /** Of one that is so wide; it grows with the room it has. */
  height?: number;
  /** Further marks, given the functions from values to places. */
  children?: (x: (value: number) => number, y: (value: number) => number) => ReactNode;
}

const WIDE = 272;

/** The one plot of the application: real axes, curves, and marks on them. It takes the room there
 * is, and its words keep their size. */
export function Plot({ width = WIDE, height = 150, ...props }: PlotProps) {
  const box = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState({ width, height });
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = () => {
      if (element.clientWidth) {
        setRoom({ width: element.clientWidth, height: element.clientHeight });
      }
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  if (props.small) return <Drawn {...props} width={width} height={height} />;
  return (
    <div
      ref={box}
      className="relative w-full grow"
      style={{ minHeight: (height * room.width) / width, maxHeight: 2 * height }}
    >
      <Drawn {...props} {...room} />
    </div>
  );
}

type DrawnProps = Omit<PlotProps, "width" | "height"> & { width: number; height: number };

function Drawn(props: DrawnProps) {
  const { x, y, lines, label, small = false, width, height, children } = props;
  const gradient = useId();
  const left = small ? 0 : 36;
  const bottom = small ? 1 : 30;
  const top = small ? 2 : 6;
  const right = small ? 0 : 10;
  const spread = width - left - right;
  const rise = height - top - bottom;
  const toX = (value: number) => left + ((value - x.from) / (x.to - x.from)) * spread;
  const toY = (value: number) => top + rise - ((value - y.from) / (y.to - y.from)) * rise;
  const path = (curve: Curve) =>
    curve.x
      .map((value, i) => [value, curve.y[i] ?? 0] as const)
      .filter(([value]) => value >= x.from - 1e-6 && value <= x.to + 1e-6)
      .map(([a, b], i) => {
        const within = Math.min(Math.max(b, y.from), y.to);
        return `${i ? "L" : "M"}${toX(a).toFixed(1)} ${toY(within).toFixed(1)}`;
      })
      .join("");
  const base = toY(y.from);

  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={label}
      className={small ? "block w-full" : "plot absolute inset-0 size-full"}
      preserveAspectRatio={small ? "none" : undefined}
      style={{ height: small ? height : undefined }}
    >
      <defs>
        <linearGradient id={gradient} x1={toX(380)} x2={toX(900)} gradientUnits="userSpaceOnUse">
          {SPECTRUM.map((nm) => (
            <stop key={nm} offset={(nm - 380) / 520} stopColor={wavelengthColour(nm)} />
          ))}
        </linearGradient>
      </defs>
      {!small &&
        y.ticks?.map((tick) => (
          <g key={tick}>
            <line x1={left} x2={width - right} y1={toY(tick)} y2={toY(tick)} stroke="#2e2e2e" />
            <text x={left - 5} y={toY(tick) + 3.5} textAnchor="end" fontSize="10" fill="#949494">
              {y.text ? y.text(tick) : tick}
            </text>
          </g>
        ))}
      {!small &&
        x.ticks?.map((tick) => (
          <g key={tick}>
            <line x1={toX(tick)} x2={toX(tick)} y1={base} y2={base + 3} stroke="#6b6b6b" />
            <text x={toX(tick)} y={base + 13} textAnchor="middle" fontSize="10" fill="#949494">
              {x.text ? x.text(tick) : tick}
            </text>
          </g>
        ))}
      <line x1={left} x2={width - right} y1={base} y2={base} stroke="#4d4d4d" />
      {lines.map((line, i) => {
        const d = path(line.curve);
        const shown = line.curve.x.filter((v) => v >= x.from - 1e-6 && v <= x.to + 1e-6);
        const area = `${d}L${toX(shown.at(-1) ?? x.to)} ${base}L${toX(shown[0] ?? x.from)} ${base}Z`;
        return (
          <g key={i}>
            {line.fill && (
              <path
                d={area}
                fill={line.fill === "spectrum" ? `url(#${gradient})` : "#8a8a8a"}
                opacity={line.fill === "spectrum" ? 0.5 : 0.35}
              />
            )}
            <path
              d={d}
              fill="none"
              stroke={line.colour ?? (line.quiet ? "#7a7a7a" : "#dcdcdc")}
              strokeWidth={line.quiet ? 1 : 1.4}
              strokeDasharray={line.quiet ? "2 3" : line.dashed ? "6 3" : undefined}
              vectorEffect="non-scaling-stroke"
            />
          </g>
        );
      })}
      {children?.(toX, toY)}
      {!small && x.label && (
        <text
          x={left + spread / 2}
          y={height - 3}
          textAnchor="middle"
          fontSize="10.5"
          fill="#adadad"
        >
          {x.label}
        </text>
      )}
      {!small && y.label && (
        <text
          x={0}
          y={0}
          transform={`translate(9 ${top + rise / 2}) rotate(-90)`}
          textAnchor="middle"
          fontSize="10.5"
          fill="#adadad"
        >
          {y.label}
        </text>
      )}
    </svg>
  );
}
