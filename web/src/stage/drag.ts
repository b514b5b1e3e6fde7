// Dragging something on the stage, and the arrow keys that do the same.

import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import type { Point } from "../document/place";
import { endGesture, holdGesture } from "../state/timeline";
import type { View } from "./view";

const SLACK_PX = 4;
const STEP = 0.1;

type DragOptions<Start> = {
  begin: (event: PointerEvent) => Start;
  move: (start: Start, event: PointerEvent, from: Point) => void;
  end?: () => void;
  click?: (event: PointerEvent) => void;
};

/** Pointer handlers of something dragged: the whole drag is one undo, and a press without a drag is a click. */
export function useDrag<Start>({ begin, move, end, click }: DragOptions<Start>) {
  const held = useRef<{ start: Start; from: Point; moved: boolean } | null>(null);
  return {
    onPointerDown: (event: PointerEvent) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      (event.currentTarget as Element).setPointerCapture(event.pointerId);
      held.current = { start: begin(event), from: { x: event.clientX, y: event.clientY }, moved: false };
    },
    onPointerMove: (event: PointerEvent) => {
      const drag = held.current;
      if (!drag) return;
      event.stopPropagation();
      const way = Math.hypot(event.clientX - drag.from.x, event.clientY - drag.from.y);
      if (!drag.moved && way < SLACK_PX) return;
      if (drag.moved) holdGesture();
      else endGesture();
      drag.moved = true;
      move(drag.start, event, drag.from);
    },
    onPointerUp: (event: PointerEvent) => {
      const drag = held.current;
      held.current = null;
      if (!drag) return;
      event.stopPropagation();
      if (drag.moved) endGesture();
      else click?.(event);
      end?.();
    },
  };
}

/** The way of a pointer since it went down, in mm. */
export function wayOf(event: PointerEvent, from: Point, view: View): Point {
  return { x: (event.clientX - from.x) / view.scale, y: (from.y - event.clientY) / view.scale };
}

/** The way an arrow key moves something, in mm; null for another key. */
export function arrow(event: KeyboardEvent): Point | null {
  const step = event.shiftKey ? 1 : STEP;
  const ways: Record<string, Point> = {
    ArrowLeft: { x: -step, y: 0 },
    ArrowRight: { x: step, y: 0 },
    ArrowUp: { x: 0, y: step },
    ArrowDown: { x: 0, y: -step },
  };
  return ways[event.key] ?? null;
}
