// Dragging: the pointer is followed to its end wherever what was grabbed is put meanwhile, and Escape takes it all back.

import { type KeyboardEvent, type PointerEvent, useEffect, useLayoutEffect, useRef } from "react";
import { create } from "zustand";
import type { Point } from "../document/place";
import { endGesture, holdGesture, takeBack, timelinePlace } from "../state/timeline";

const SLACK_PX = 4;
const STEP = 0.1;

/** Where a pointer is, and what is held with it. */
export type Pointing = Pick<globalThis.PointerEvent, "clientX" | "clientY" | "altKey" | "shiftKey">;

type DragOptions<Start> = {
  begin: (event: PointerEvent) => Start;
  move: (start: Start, event: Pointing, from: Point) => void;
  /** The drag has come to its end. */
  drop?: (start: Start, event: Pointing) => void;
  /** What to put back beside the document, which is put back after it. */
  cancel?: (start: Start) => void;
  /** It is over, whichever way. */
  end?: () => void;
  click?: (start: Start, event: Pointing) => void;
};

const useDragged = create(() => ({ dragging: false }));

/** Whether something is being dragged: what lies around it holds still meanwhile. */
export const useDragging = (): boolean => useDragged((state) => state.dragging);

/**
 * Handlers of something dragged: the whole drag is one undo, a press without a drag is a click, Escape takes it back.
 *
 * Moves are heard by the window: what was grabbed may be drawn anew, or elsewhere in the page, while it is dragged.
 */
export function useDrag<Start>(options: DragOptions<Start>) {
  const newest = useRef(options);
  useLayoutEffect(() => {
    newest.current = options;
  });
  const stop = useRef(() => {});
  useEffect(() => () => stop.current(), []);

  const onPointerDown = (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    stop.current();
    const start = options.begin(event);
    const { pointerId } = event;
    const from = { x: event.clientX, y: event.clientY };
    const place = timelinePlace();
    let moved = false;

    const hear = (told: globalThis.PointerEvent) => {
      if (told.pointerId !== pointerId) return;
      if (told.type === "pointermove") follow(told);
      else if (told.type === "pointercancel") cancel();
      else {
        over();
        if (moved) newest.current.drop?.(start, told);
        else newest.current.click?.(start, told);
      }
    };
    const follow = (told: globalThis.PointerEvent) => {
      const way = Math.hypot(told.clientX - from.x, told.clientY - from.y);
      if (!moved && way < SLACK_PX) return;
      if (moved) holdGesture();
      else {
        endGesture();
        // Also beyond the window; a press alone stays with what was pressed, for double clicks.
        document.body.setPointerCapture(pointerId);
        useDragged.setState({ dragging: true });
      }
      moved = true;
      newest.current.move(start, told, from);
    };
    const over = () => {
      stop.current = () => {};
      for (const name of HEARD) removeEventListener(name, hear);
      deaf();
      if (moved) {
        if (document.body.hasPointerCapture(pointerId)) document.body.releasePointerCapture(pointerId);
        useDragged.setState({ dragging: false });
        endGesture();
      }
      newest.current.end?.();
    };
    const cancel = () => {
      over();
      if (!moved) return;
      newest.current.cancel?.(start);
      takeBack(place);
    };
    for (const name of HEARD) addEventListener(name, hear);
    const deaf = whenEscaped(cancel);
    stop.current = over;
  };
  return { onPointerDown };
}

const HEARD = ["pointermove", "pointerup", "pointercancel"] as const;

/** Calls at Escape, before a dialog or whatever else hears it, unless the call gives false; what ends that. */
export function whenEscaped(call: () => unknown): () => void {
  const hear = (event: globalThis.KeyboardEvent) => {
    if (event.key !== "Escape" || call() === false) return;
    event.preventDefault();
    event.stopPropagation();
  };
  addEventListener("keydown", hear, { capture: true });
  return () => removeEventListener("keydown", hear, { capture: true });
}

/** Where a pointer is on the drawing that an element is part of, in pixels from its upper left. */
export function onDrawing(
  { clientX, clientY }: Pick<Pointing, "clientX" | "clientY">,
  part: SVGElement | null,
): Point {
  const box = part?.ownerSVGElement?.getBoundingClientRect();
  return { x: clientX - (box?.left ?? 0), y: clientY - (box?.top ?? 0) };
}

/** The way of a pointer since it went down, in mm, at a scale in pixels per mm. */
export function wayOf(event: Pointing, from: Point, { scale }: { scale: number }): Point {
  return { x: (event.clientX - from.x) / scale, y: (from.y - event.clientY) / scale };
}

/** The way an arrow key moves something, in mm, ten steps with Shift; null for another key. */
export function arrow(event: KeyboardEvent, small = STEP): Point | null {
  const step = event.shiftKey ? 10 * small : small;
  const ways: Record<string, Point> = {
    ArrowLeft: { x: -step, y: 0 },
    ArrowRight: { x: step, y: 0 },
    ArrowUp: { x: 0, y: step },
    ArrowDown: { x: 0, y: -step },
  };
  return ways[event.key] ?? null;
}
