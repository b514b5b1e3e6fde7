// What is picked on the sheets: a piece, a box that is kept free, or a corner of an offcut.

import { type KeyboardEvent, useRef } from "react";
import type { Point } from "../document/place";
import type { Pointing } from "../ui/drag";

export type Picked =
  | { kind: "piece"; index: number }
  | { kind: "free"; material: string; index: number }
  | { kind: "corner"; offcut: number; index: number };

export type Pick = (picked: Picked | null) => void;

export function isPicked(picked: Picked | null, other: Picked): boolean {
  return JSON.stringify(picked) === JSON.stringify(other);
}

/** The picture of a sheet, and what the pointer's way on the screen is on it, in mm. */
export function useSurface() {
  const surface = useRef<SVGSVGElement>(null);
  const scale = () => surface.current?.getScreenCTM()?.a || 1;
  const way = (event: Pointing, from: Point, per: number) => ({
    x: (event.clientX - from.x) / per,
    y: (from.y - event.clientY) / per,
  });
  return { surface, scale, way };
}

/** The way of an arrow key on a sheet, in mm. */
export function step(event: KeyboardEvent): Point | null {
  const by = event.shiftKey ? 10 : 1;
  const ways: Record<string, Point> = {
    ArrowLeft: { x: -by, y: 0 },
    ArrowRight: { x: by, y: 0 },
    ArrowUp: { x: 0, y: by },
    ArrowDown: { x: 0, y: -by },
  };
  return ways[event.key] ?? null;
}
