// A loop drawn around nodes on the stage.

import { type MouseEvent, type PointerEvent, useEffect, useState } from "react";
import type { Point } from "../document/place";
import { pair } from "../stage/frame";
import { endGesture } from "../state/timeline";

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
  const here = (event: PointerEvent): Point => {
    const box = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
    return { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) };
  };
  const catching = {
    onPointerDown: (event: PointerEvent) => {
      if (event.button !== 0 || event.pointerType === "touch") return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      endGesture();
      setLoop([here(event)]);
    },
    onPointerMove: (event: PointerEvent) => {
      if (!loop) return;
      event.stopPropagation();
      setLoop([...loop, here(event)]);
    },
    onPointerUp: (event: PointerEvent) => {
      if (!loop) return;
      event.stopPropagation();
      // A click beside everything lets go; a loop that caught nothing does, too.
      found(loop.length > 2 ? loop : [], event.shiftKey);
      setLoop(null);
    },
    onPointerCancel: () => setLoop(null),
    onDoubleClick: (event: MouseEvent) => event.stopPropagation(),
  };
  return (
    <>
      <rect
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
