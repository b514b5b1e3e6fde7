// Rulers along the top and the left of the stage, with the job's extent marked on them.

import type { Unit } from "../document/types";
import { type Box, type Size, ticks, type View } from "./view";

export const RULER = 24;

type Props = { view: View; size: Size; unit: Unit; bounds: Box | null };

export function Rulers({ view, size, unit, bounds }: Props) {
  const across = ticks(0, size.width, view.x, view.scale, unit, 1);
  const up = ticks(0, size.height, view.y, view.scale, unit, -1);
  const extent = bounds && {
    x: view.x + bounds[0] * view.scale,
    width: (bounds[2] - bounds[0]) * view.scale,
    y: view.y - bounds[3] * view.scale,
    height: (bounds[3] - bounds[1]) * view.scale,
  };
  const text = "fill-soft text-[10px]";
  return (
    <>
      <svg
        aria-hidden="true"
        className="pointer-events-none absolute top-0 left-6 bg-sheet"
        width={size.width}
        height={RULER}
      >
        {extent && <rect x={extent.x} y={0} width={extent.width} height={RULER} className="fill-glow/25" />}
        {across.map(({ at, label }) => (
          <g key={at}>
            <line
              x1={at}
              x2={at}
              y1={label === null ? RULER - 5 : RULER - 10}
              y2={RULER}
              className="stroke-soft/70"
            />
            {label !== null && (
              <text x={at + 3} y={11} className={text}>
                {label}
              </text>
            )}
          </g>
        ))}
        <line x1={0} x2={size.width} y1={RULER - 0.5} y2={RULER - 0.5} className="stroke-line" />
      </svg>
      <svg
        aria-hidden="true"
        className="pointer-events-none absolute top-6 left-0 bg-sheet"
        width={RULER}
        height={size.height}
      >
        {extent && <rect x={0} y={extent.y} width={RULER} height={extent.height} className="fill-glow/25" />}
        {up.map(({ at, label }) => (
          <g key={at}>
            <line
              y1={at}
              y2={at}
              x1={label === null ? RULER - 5 : RULER - 10}
              x2={RULER}
              className="stroke-soft/70"
            />
            {label !== null && (
              <text x={11} y={at - 3} transform={`rotate(-90 11 ${at - 3})`} className={text}>
                {label}
              </text>
            )}
          </g>
        ))}
        <line y1={0} y2={size.height} x1={RULER - 0.5} x2={RULER - 0.5} className="stroke-line" />
      </svg>
      <div className="pointer-events-none absolute top-0 left-0 flex size-6 items-center justify-center border-line border-r border-b bg-sheet text-[10px] text-soft">
        {unit}
      </div>
    </>
  );
}
