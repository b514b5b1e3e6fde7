// The handle of a ring tab: dragged along the outline, or turned with the arrow keys.

import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { patchLayer } from "../document/edit";
import type { Recipe } from "../document/types";
import type { Building } from "./building";
import { edit, useBench, useDesign } from "./history";
import type { View } from "./view";

export function TabHandle({ building, view }: { building: Building; view: View }) {
  const design = useDesign();
  const selected = useBench((bench) => bench.selected);
  const layer = design.layers.find((one) => one.id === selected && !one.hidden);
  const reply = building.built?.reply.layers.find((one) => one.id === selected);
  if (!layer || !reply) return null;
  return reply.notes.map((note) => {
    const step = layer.recipe.steps[note.step];
    if (!note.tab || step?.op !== "tab") return null;
    const set = (at: number) => {
      const changed = { ...step, at: Math.round((((at % 360) + 360) % 360) * 10) / 10 };
      const recipe: Recipe = { ...layer.recipe, steps: layer.recipe.steps.with(note.step, changed) };
      edit((one) => patchLayer(one, layer.id, { recipe }), `${layer.id}.tab.${note.step}`);
    };
    return <Handle key={note.step} tab={note.tab} at={step.at} view={view} onChange={set} />;
  });
}

type Tab = { at_mm: number[]; box_mm: number[] };

function Handle(props: { tab: Tab; at: number; view: View; onChange: (at: number) => void }) {
  const { tab, at, view, onChange } = props;
  const held = useRef(false);
  const [x = 0, y = 0] = tab.at_mm;
  const [x0 = 0, y0 = 0, x1 = 1, y1 = 1] = tab.box_mm;
  const drag = (event: PointerEvent<SVGCircleElement>) => {
    if (!held.current) return;
    const svg = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!svg) return;
    const px = (event.clientX - svg.left - view.x) / view.scale;
    const py = -(event.clientY - svg.top - view.y) / view.scale;
    // Directions are measured in the box: 45 degrees is its corner, whatever its shape.
    const angle = Math.atan2((2 * py - y0 - y1) / (y1 - y0), (2 * px - x0 - x1) / (x1 - x0));
    onChange((angle * 180) / Math.PI);
  };
  const keys = (event: KeyboardEvent) => {
    const size = event.shiftKey ? 10 : 1;
    if (event.key === "ArrowLeft" || event.key === "ArrowUp") onChange(at + size);
    else if (event.key === "ArrowRight" || event.key === "ArrowDown") onChange(at - size);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <circle
      cx={view.x + x * view.scale}
      cy={view.y - y * view.scale}
      r={9}
      role="slider"
      tabIndex={0}
      aria-label="Place of the tab along the edge: drag it, or use the arrow keys"
      aria-valuenow={at}
      aria-valuetext={`${at} degrees`}
      data-testid="tab-handle"
      strokeWidth={3}
      className="pointer-events-auto cursor-grab touch-none fill-sheet/60 stroke-halo active:cursor-grabbing"
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
      }}
      onPointerMove={drag}
      onPointerUp={(event) => {
        event.stopPropagation();
        held.current = false;
        useBench.getState().endGesture();
      }}
      onKeyDown={keys}
    />
  );
}
