// A loop drawn around nodes on the stage.

import { type MouseEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import type { Point } from "../document/place";
import { pair } from "../stage/frame";
import { onDrawing, type Pointing, useDrag } from "../ui/drag";

/** What catches drags beside nodes: a loop is drawn around some. With Space held, or by a finger, it lets go. */
export function Loop({
  size,
  found,
}: {
  size: { width: number; height: number };
  found: (loop: Point[], also: boolean) => void;
}) {
  const [loop, setLoop] = useState<Point[] | null>(null);
  const [panning, setPanning] = useState(false);
  useEffect(() => {
    const hear = (event: globalThis.KeyboardEvent) => {
      if (event.key !== " " || (event.target as Element).matches?.("input, textarea, button, summary"))
        return;
      event.preventDefault();
      setPanning(event.type === "keydown");
    };
    addEventListener("keydown", hear);
    addEventListener("keyup", hear);
    return () => {
      removeEventListener("keydown", hear);
      removeEventListener("keyup", hear);
    };
  }, []);
  const rect = useRef<SVGRectElement>(null);
  const here = (event: Pointing) => onDrawing(event, rect.current);
  const drag = useDrag<Point[]>({
    begin: (event) => [here(event)],
    move: (points, event) => {
      points.push(here(event));
      setLoop([...points]);
    },
    drop: (points, event) => found(points.length > 2 ? points : [], event.shiftKey),
    // A click beside everything lets go.
    click: (_, event) => found([], event.shiftKey),
    end: () => setLoop(null),
  });
  const catching = {
    onPointerDown: (event: PointerEvent) => event.pointerType !== "touch" && drag.onPointerDown(event),
    onDoubleClick: (event: MouseEvent) => event.stopPropagation(),
  };
  return (
    <>
      <rect
        ref={rect}
        width={size.width}
        height={size.height}
        data-testid="loop"
        className={`fill-transparent ${panning ? "pointer-events-none" : "pointer-events-auto cursor-crosshair"}`}
        {...catching}
      />
      {loop && loop.length > 1 && (
        <polygon
          points={loop.map(pair).join(" ")}
          className="pointer-events-none fill-halo/10 stroke-halo"
          strokeDasharray="4 3"
        />
      )}
    </>
  );
}
