// Rulers along the top and the left of the stage, with the job's extent marked on them.

import { memo, type ReactNode } from "react";
import type { Unit } from "../document/types";
import { type Box, type Size, ticks, type View } from "./view";

export const RULER = 24;

type Props = { view: View; size: Size; unit: Unit; bounds: Box | null };

export function Rulers({ view, size, unit, bounds }: Props) {
  const { x, y, scale } = view;
  return (
    <>
      <Ruler along="x" length={size.width} origin={x} scale={scale} unit={unit}>
        {bounds && <rect x={x + bounds[0] * scale} width={(bounds[2] - bounds[0]) * scale} height={RULER} />}
      </Ruler>
      <Ruler along="y" length={size.height} origin={y} scale={scale} unit={unit}>
        {bounds && <rect y={y - bounds[3] * scale} height={(bounds[3] - bounds[1]) * scale} width={RULER} />}
      </Ruler>
      <div className="pointer-events-none absolute top-0 left-0 flex size-6 items-center justify-center border-line border-r border-b bg-sheet text-[10px] text-soft">
        {unit}
      </div>
    </>
  );
}

type Scale = { along: "x" | "y"; length: number; origin: number; scale: number; unit: Unit };

function Ruler({ children, ...scale }: Scale & { children: ReactNode }) {
  const across = scale.along === "x";
  return (
    <svg
      aria-hidden="true"
      className={`pointer-events-none absolute bg-sheet ${across ? "top-0 left-6" : "top-6 left-0"}`}
      width={across ? scale.length : RULER}
      height={across ? RULER : scale.length}
    >
      <g className="fill-glow/25">{children}</g>
      <Ticks {...scale} />
    </svg>
  );
}

/** Kept apart from the extent, which changes with every edit. */
const Ticks = memo(function Ticks({ along, length, origin, scale, unit }: Scale) {
  const across = along === "x";
  return (
    <g className="fill-soft text-[10px]">
      {ticks(0, length, origin, scale, unit, across ? 1 : -1).map(({ at, label }) => {
        const from = label === null ? RULER - 5 : RULER - 10;
        return (
          <g key={at}>
            <path
              d={across ? `M${at},${from}V${RULER}` : `M${from},${at}H${RULER}`}
              className="stroke-soft/70"
            />
            {label !== null && fits(across ? at : length - at, label, length) && (
              <text
                {...(across
                  ? { x: at + 3, y: 11 }
                  : { x: 11, y: at - 3, transform: `rotate(-90 11 ${at - 3})` })}
              >
                {label}
              </text>
            )}
          </g>
        );
      })}
      <path
        d={across ? `M0,${RULER - 0.5}H${length}` : `M${RULER - 0.5},0V${length}`}
        className="stroke-line"
      />
    </g>
  );
});

/** Whether all of a label is on the ruler; it begins a little after its tick. */
function fits(at: number, label: string, length: number): boolean {
  return at >= -3 && at + 4 + 6 * label.length <= length;
}
