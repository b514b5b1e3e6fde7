// A finger that rests and is lifted: what a double click does with a mouse.

import { type PointerEvent, useRef } from "react";

const LONG_MS = 500;
/** A finger never lies quite still: this many pixels are no move. */
const SLACK = 9;

type Point = { clientX: number; clientY: number };

/** Handlers of an element whose parts may keep presses to themselves: these see them first. */
export function useLongPress(act: (at: Point) => void) {
  const held = useRef<(Point & { since: number }) | null>(null);
  const release = () => {
    held.current = null;
  };
  return {
    onPointerDownCapture: ({ pointerType, isPrimary, clientX, clientY, timeStamp }: PointerEvent) => {
      held.current = pointerType === "touch" && isPrimary ? { clientX, clientY, since: timeStamp } : null;
    },
    onPointerMoveCapture: ({ clientX, clientY }: PointerEvent) => {
      const from = held.current;
      if (from && Math.hypot(clientX - from.clientX, clientY - from.clientY) > SLACK) release();
    },
    onPointerUpCapture: ({ timeStamp }: PointerEvent) => {
      const at = held.current;
      release();
      // After those who take the same press for a click.
      if (at && timeStamp - at.since >= LONG_MS) setTimeout(() => act(at));
    },
    onPointerCancelCapture: release,
  };
}
