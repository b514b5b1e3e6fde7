// Corners and handles of a frame, in the art's own coordinates.

import type { Box, Point } from "../document/place";

export function corners([x0, y0, x1, y1]: Box): Point[] {
  return [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ];
}

/** Corners always; the sides too where proportions are free. */
export function handles(box: Box, free: boolean) {
  const [a, b, c, d] = corners(box) as [Point, Point, Point, Point];
  const half = (p: Point, q: Point) => ({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 });
  const [foot, right, top, left] = [half(a, b), half(b, c), half(c, d), half(d, a)];
  return [
    { name: "lower left", handle: a, opposite: c },
    { name: "lower right", handle: b, opposite: d },
    { name: "upper right", handle: c, opposite: a },
    { name: "upper left", handle: d, opposite: b },
    ...(free
      ? [
          { name: "lower", handle: foot, opposite: top },
          { name: "upper", handle: top, opposite: foot },
          { name: "right", handle: right, opposite: left },
          { name: "left", handle: left, opposite: right },
        ]
      : []),
  ];
}

/** A point as SVG lists it. */
export function pair({ x, y }: Point): string {
  return `${x.toFixed(2)},${y.toFixed(2)}`;
}
