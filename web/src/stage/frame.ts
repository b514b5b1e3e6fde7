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
  const pairs: [Point, Point][] = [
    [a, c],
    [b, d],
    [c, a],
    [d, b],
  ];
  if (free) {
    const sides: [Point, Point][] = [
      [half(a, b), half(c, d)],
      [half(b, c), half(d, a)],
    ];
    for (const [p, q] of sides) pairs.push([p, q], [q, p]);
  }
  return pairs.map(([handle, opposite]) => ({ handle, opposite }));
}

/** A point as SVG lists it. */
export function pair({ x, y }: Point): string {
  return `${x.toFixed(2)},${y.toFixed(2)}`;
}
