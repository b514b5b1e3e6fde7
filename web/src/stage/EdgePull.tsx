// The edge of the selected layer: taken and pulled in or out, the distance that it comes from follows.

import { type KeyboardEvent, useRef, useState } from "react";
import type { Point } from "../document/place";
import { type Pull, pullOf, snap, snapped } from "../document/pull";
import { withStep } from "../document/recipes";
import type { Layer } from "../document/types";
import { length } from "../document/units";
import type { Building } from "../state/building";
import { useSelection } from "../state/selection";
import { edit, endGesture, usePart, useUnit } from "../state/timeline";
import { onDrawing, useDrag } from "../ui/drag";
import type { View } from "./view";

export function EdgePull({ building, view }: { building: Building; view: View }) {
  const selected = useSelection((state) => (state.picked === null ? state.layer : null));
  const layer = usePart((design) => design.layers.find((one) => one.id === selected && !one.hidden));
  const pull = layer && pullOf(layer.recipe);
  const path = building.built?.paths.get(selected ?? "");
  if (!layer || !pull || !path) return null;
  return <Edge layer={layer} pull={pull} path={path} view={view} />;
}

/** How far around the pointer, in pixels, it is looked which side is inside. */
const AROUND = 7;
const WAYS = Array.from({ length: 16 }, (_, k) => [Math.cos((k * Math.PI) / 8), Math.sin((k * Math.PI) / 8)]);

type Held = { value: number; x: number; y: number };

function Edge({ layer, pull, path, view }: { layer: Layer; pull: Pull; path: string; view: View }) {
  const unit = useUnit();
  const edge = useRef<SVGPathElement>(null);
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const set = (value: number) => {
    edit(
      (design) => withStep(design, layer.id, pull.step, () => pull.set(value)),
      `${layer.id}.pull.${pull.step}`,
    );
  };
  const round = snap(view.scale, unit);
  const drag = useDrag<Held>({
    begin: (event) => ({
      value: pull.value,
      ...outwards(edge.current, onDrawing(event, edge.current), view),
    }),
    move: (held, event, from) => {
      const way = (event.clientX - from.x) * held.x + (event.clientY - from.y) * held.y;
      setAt(onDrawing(event, edge.current));
      set(snapped(held.value + way / view.scale, round, pull));
    },
    end: () => setAt(null),
  });
  const keys = (event: KeyboardEvent) => {
    const ways: Record<string, number> = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 };
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    const step = (unit === "mm" ? 0.1 : 25.4 / 64) * (event.shiftKey ? 10 : 1);
    set(snapped(pull.value + way * step, step, pull));
  };
  const told = length(Math.abs(pull.value), unit);
  return (
    <g>
      <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
        <path
          ref={edge}
          d={path}
          fill="none"
          strokeWidth={12}
          vectorEffect="non-scaling-stroke"
          role="slider"
          tabIndex={0}
          aria-label={`${pull.label} of ${layer.name.trim() || layer.id}: pull the edge, or use the arrow keys`}
          aria-valuenow={pull.value}
          aria-valuetext={told}
          data-testid="edge"
          data-layer={layer.id}
          className="cursor-move touch-none outline-none focus-visible:stroke-glow/60"
          pointerEvents="stroke"
          {...drag}
          onBlur={endGesture}
          onKeyDown={keys}
        />
      </g>
      {at && (
        <text
          x={at.x + 14}
          y={at.y - 12}
          data-testid="pulled"
          className="fill-ink stroke-sheet font-semibold text-sm [paint-order:stroke]"
          strokeWidth={4}
        >
          {told}
        </text>
      )}
    </g>
  );
}

/** The way out at the pointer, in screen directions: away from what is inside around it. */
function outwards(path: SVGPathElement | null, at: Point, view: View): Point {
  let x = 0;
  let y = 0;
  for (const [dx = 0, dy = 0] of WAYS) {
    const point = new DOMPoint(
      (at.x + AROUND * dx - view.x) / view.scale,
      (at.y + AROUND * dy - view.y) / view.scale,
    );
    const way = path?.isPointInFill(point) ? -1 : 1;
    x += way * dx;
    y += way * dy;
  }
  const size = Math.hypot(x, y);
  return size > 0 ? { x: x / size, y: y / size } : { x: 0, y: -1 };
}
