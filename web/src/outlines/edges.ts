// Rings of an outline as the stage draws them, in px.

import { pointAt, type Ring } from "../document/outline";
import type { Point } from "../document/place";
import { pair } from "../stage/frame";

/** A node by its number, and where it is seen. */
export type Shown = { node: number; ring: Ring; at: number; point: Point };
export type Edge = { ring: Ring; k: number; node: number; next: number };

/** Every segment with the numbers of its two nodes. */
export function edgesOf(rings: Ring[]): Edge[] {
  let first = 0;
  return rings.flatMap((ring) => {
    const base = first;
    first += ring.length;
    return ring.map((_, k) => ({ ring, k, node: base + k, next: base + ((k + 1) % ring.length) }));
  });
}

export function shownNodes(rings: Ring[], at: (point: Point) => Point): Shown[] {
  let node = 0;
  return rings.flatMap((ring) =>
    ring.map((segment, k) => ({ node: node++, ring, at: k, point: at(segment.at) })),
  );
}

export function edgePath(ring: Ring, k: number, at: (point: Point) => Point): string {
  const start = ring[k] as Ring[number];
  const end = pair(at((ring[(k + 1) % ring.length] as Ring[number]).at));
  const handles = start.handles?.map((one) => pair(at(one))).join(" ");
  return `M${pair(at(start.at))}${handles ? `C${handles} ` : "L"}${end}`;
}

export function outlinePath(rings: Ring[], at: (point: Point) => Point): string {
  return rings
    .flatMap((ring) =>
      ring.map((_, k) => (k === 0 ? edgePath(ring, k, at) : edgePath(ring, k, at).replace(/^M[^CL]*/, ""))),
    )
    .join("");
}

/** The parameter of an edge nearest to a place on the screen: where it was clicked. */
export function nearest(ring: Ring, k: number, at: (point: Point) => Point, to: Point): number {
  const tries = Array.from({ length: 97 }, (_, i) => 0.02 + (0.96 * i) / 96);
  const far = (t: number) => {
    const { x, y } = at(pointAt(ring, k, t));
    return Math.hypot(x - to.x, y - to.y);
  };
  return tries.reduce((best, t) => (far(t) < far(best) ? t : best));
}

/** The node after or before one, around its ring; the first where none is taken. */
export function stepped(rings: Ring[], from: number | undefined, way: 1 | -1): number {
  const total = rings.reduce((sum, ring) => sum + ring.length, 0);
  return from === undefined ? 0 : (from + way + total) % total;
}
