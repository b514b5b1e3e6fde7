// Where the stage looks: a scale and the place of the design's origin on it.

import type { Sheet, Unit } from "../document/types";

/** px per mm, and the screen position of the design's origin in px. */
export type View = { scale: number; x: number; y: number };
export type Box = readonly [number, number, number, number];
export type Size = { width: number; height: number };

export const MIN_SCALE = 0.05;
export const MAX_SCALE = 2000;

/** The box of a sheet. */
export const sheetBox = ({ x, y, width, height }: Sheet): Box => [x, y, x + width, y + height];

/** The box around two boxes. */
export function around(one: Box | null, other: Box): Box {
  if (!one) return other;
  const low = (k: 0 | 1) => Math.min(one[k], other[k]);
  const high = (k: 2 | 3) => Math.max(one[k], other[k]);
  return [low(0), low(1), high(2), high(3)];
}

/** The view that shows a box (mm, y up) whole, with some room around it. */
export function fitted(box: Box | null, size: Size): View {
  const [x0, y0, x1, y1] = box ?? [-50, -30, 50, 30];
  const scale = clampScale(
    Math.min((size.width * 0.86) / Math.max(x1 - x0, 1), (size.height * 0.84) / Math.max(y1 - y0, 1)),
  );
  return {
    scale,
    x: size.width / 2 - ((x0 + x1) / 2) * scale,
    y: size.height / 2 + ((y0 + y1) / 2) * scale,
  };
}

/** Zoom by a factor with the point under the pointer kept in place. */
export function zoomed(view: View, factor: number, at: { x: number; y: number }): View {
  const scale = clampScale(view.scale * factor);
  const real = scale / view.scale;
  return { scale, x: at.x - (at.x - view.x) * real, y: at.y - (at.y - view.y) * real };
}

export function clampScale(scale: number): number {
  return Math.max(MIN_SCALE, Math.min(MAX_SCALE, scale));
}

export type Tick = { at: number; label: string | null };

/** Ruler ticks between two screen positions: `origin` is the zero's position, `way` is 1 or -1 for up. */
export function ticks(
  from: number,
  to: number,
  origin: number,
  scale: number,
  unit: Unit,
  way: 1 | -1,
): Tick[] {
  const per = scale * (unit === "in" ? 25.4 : 1);
  const { step, parts } = tickStep(per, unit);
  const first = Math.floor(Math.min((from - origin) / per / way, (to - origin) / per / way) / step);
  const last = Math.ceil(Math.max((from - origin) / per / way, (to - origin) / per / way) / step);
  const made: Tick[] = [];
  for (let major = first; major <= last; major++) {
    for (let part = 0; part < parts; part++) {
      const value = (major + part / parts) * step;
      const label = part === 0 ? Number(value.toFixed(4)).toString().replace("-", "−") : null;
      made.push({ at: origin + way * value * per, label });
    }
  }
  return made;
}

/** Labelled ticks at least 56 px apart; inches go by halves, millimetres by tens. */
function tickStep(perUnit: number, unit: Unit): { step: number; parts: number } {
  const wanted = 56 / perUnit;
  if (unit === "in" && wanted <= 1) {
    let step = 1;
    while (step / 2 >= wanted) step /= 2;
    return { step, parts: 4 };
  }
  const decade = 10 ** Math.floor(Math.log10(wanted));
  const step = [1, 2, 5, 10].map((n) => n * decade).find((n) => n >= wanted - 1e-9) ?? 10 * decade;
  return { step, parts: Math.round(step / decade) === 2 ? 4 : 5 };
}
