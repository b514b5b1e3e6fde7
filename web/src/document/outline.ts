// Outlines whose nodes stand in the document: their text read, nodes and handles moved in it, and written again.
//
// A node is where a segment begins; nodes are counted through all rings, as the server counts them.

import type { Point } from "./place";

/** A segment from its node to the next one of its ring: with two handles, or straight. */
export type Segment = { at: Point; handles: [Point, Point] | null };
export type Ring = Segment[];

const PART = /([MLC])([^MLCZ]*)|Z/g;
/** Two handles within this turn, in radians, make a smooth node. */
const SMOOTH = (2 * Math.PI) / 180;

export function readRings(text: string): Ring[] {
  const rings: Ring[] = [];
  let ring: Ring = [];
  let here: Point | null = null;
  for (const [, command, numbers = ""] of text.matchAll(PART)) {
    if (command === undefined) {
      const start = ring[0]?.at;
      // A last straight line is left to the closing.
      if (here && start && (here.x !== start.x || here.y !== start.y || ring.length === 0))
        ring.push({ at: here, handles: null });
      if (ring.length > 0) rings.push(ring);
      ring = [];
      here = null;
      continue;
    }
    const points = pointsOf(numbers);
    if (command === "M") here = points[0] ?? null;
    for (let k = 0; here && command !== "M" && k < points.length; k += command === "C" ? 3 : 1) {
      const [first, second] = [points[k], points[k + 1]];
      ring.push({ at: here, handles: command === "C" && first && second ? [first, second] : null });
      here = points[command === "C" ? k + 2 : k] ?? null;
    }
  }
  return rings;
}

function pointsOf(numbers: string): Point[] {
  const values = (numbers.match(/[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/g) ?? []).map(Number);
  return Array.from({ length: values.length >> 1 }, (_, k) => ({
    x: values[2 * k] as number,
    y: values[2 * k + 1] as number,
  }));
}

export function writeRings(rings: Ring[]): string {
  return rings
    .map((ring) => {
      const start = pair((ring[0] as Segment).at);
      const parts = ring.map(({ handles }, k) => {
        const end = k === ring.length - 1 ? start : pair((ring[k + 1] as Segment).at);
        if (handles) return `C${pair(handles[0])} ${pair(handles[1])} ${end}`;
        return k === ring.length - 1 ? "" : `L${end}`;
      });
      return `M${start}${parts.join("")}Z`;
    })
    .join("");
}

const trim = (value: number) => {
  const text = Number(value.toFixed(5)).toString();
  return text === "-0" ? "0" : text;
};
const pair = ({ x, y }: Point) => `${trim(x)},${trim(y)}`;
const sum = (a: Point, b: Point): Point => ({ x: a.x + b.x, y: a.y + b.y });

/** Where a node is: its ring, and its place in that. */
export function findNode(rings: Ring[], node: number): { ring: number; at: number } | null {
  let first = 0;
  for (const [ring, { length }] of rings.entries()) {
    if (node < first + length) return { ring, at: node - first };
    first += length;
  }
  return null;
}

/** Nodes moved, with their handles. */
export function moveNodes(rings: Ring[], nodes: ReadonlySet<number>, by: Point): Ring[] {
  let first = 0;
  return rings.map((ring) => {
    const base = first;
    first += ring.length;
    const taken = (k: number) => nodes.has(base + ((k + ring.length) % ring.length));
    if (!ring.some((_, k) => taken(k))) return ring;
    return ring.map(({ at, handles }, k) => ({
      at: taken(k) ? sum(at, by) : at,
      handles: handles && [
        taken(k) ? sum(handles[0], by) : handles[0],
        taken(k + 1) ? sum(handles[1], by) : handles[1],
      ],
    }));
  });
}

export type Side = "leaving" | "arriving";

/** The handle of a node on one side, if its segment there is a curve. */
export function handleOf(ring: Ring, at: number, side: Side): Point | null {
  if (side === "leaving") return ring[at]?.handles?.[0] ?? null;
  return ring[(at - 1 + ring.length) % ring.length]?.handles?.[1] ?? null;
}

/** Whether the outline has no corner at a node. */
export function isSmooth(ring: Ring, at: number): boolean {
  const node = (ring[at] as Segment).at;
  const next = handleOf(ring, at, "leaving") ?? ring[(at + 1) % ring.length]?.at;
  const last = handleOf(ring, at, "arriving") ?? ring[(at - 1 + ring.length) % ring.length]?.at;
  if (!next || !last) return false;
  const [a, b] = [angle(last, node), angle(node, next)];
  return Math.abs(Math.atan2(Math.sin(b - a), Math.cos(b - a))) < SMOOTH;
}

const angle = (from: Point, to: Point) => Math.atan2(to.y - from.y, to.x - from.x);

/** A handle moved; that on the other side of a smooth node turns with it, unless it is free. */
export function moveHandle(rings: Ring[], node: number, side: Side, to: Point, free: boolean): Ring[] {
  const found = findNode(rings, node);
  if (!found) return rings;
  const ring = rings[found.ring] as Ring;
  const { at } = ring[found.at] as Segment;
  const other: Side = side === "leaving" ? "arriving" : "leaving";
  const opposite = handleOf(ring, found.at, other);
  let made = withHandle(ring, found.at, side, to);
  if (opposite && !free && isSmooth(ring, found.at)) {
    const size = Math.hypot(opposite.x - at.x, opposite.y - at.y);
    const way = Math.hypot(at.x - to.x, at.y - to.y) || 1;
    const turned = { x: at.x + ((at.x - to.x) / way) * size, y: at.y + ((at.y - to.y) / way) * size };
    made = withHandle(made, found.at, other, turned);
  }
  return rings.with(found.ring, made);
}

function withHandle(ring: Ring, at: number, side: Side, to: Point): Ring {
  const k = side === "leaving" ? at : (at - 1 + ring.length) % ring.length;
  const { at: node, handles } = ring[k] as Segment;
  if (!handles) return ring;
  return ring.with(k, { at: node, handles: side === "leaving" ? [to, handles[1]] : [handles[0], to] });
}

/** A point of a segment. */
export function pointAt(ring: Ring, k: number, t: number): Point {
  const { at, handles } = ring[k] as Segment;
  const end = (ring[(k + 1) % ring.length] as Segment).at;
  const [a, b] = handles ?? [at, end];
  const u = 1 - t;
  const mix = (p: number, q: number, r: number, s: number) =>
    handles ? u * u * u * p + 3 * u * u * t * q + 3 * u * t * t * r + t * t * t * s : u * p + t * s;
  return { x: mix(at.x, a.x, b.x, end.x), y: mix(at.y, a.y, b.y, end.y) };
}

/** Nodes inside a drawn loop, by the even-odd rule (Jordan). */
export function insideLoop(loop: Point[], point: Point): boolean {
  let inside = false;
  for (const [k, a] of loop.entries()) {
    const b = loop[(k + 1) % loop.length] as Point;
    if (a.y > point.y !== b.y > point.y && point.x < ((b.x - a.x) * (point.y - a.y)) / (b.y - a.y) + a.x)
      inside = !inside;
  }
  return inside;
}
