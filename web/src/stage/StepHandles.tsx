// Handles of the selected layer's steps: a ring tab is dragged along the outline, holes anywhere on the layer.

import { type KeyboardEvent, useState } from "react";
import type { Point } from "../document/place";
import { snap, snapped } from "../document/pull";
import { withStep } from "../document/recipes";
import type { HolesAt, Step, StepOf, TabAt } from "../document/types";
import { length } from "../document/units";
import type { Building } from "../state/building";
import { useSelection } from "../state/selection";
import { edit, usePart, useUnit } from "../state/timeline";
import { useDrag, wayOf } from "../ui/drag";
import type { View } from "./view";

export function StepHandles({ building, view }: { building: Building; view: View }) {
  const selected = useSelection((state) => state.layer);
  const layer = usePart((design) => design.layers.find((one) => one.id === selected && !one.hidden));
  const reply = building.built?.reply.layers.find((one) => one.id === selected);
  const job = building.built?.reply.bounds_mm;
  if (!layer || !reply) return null;
  const shadow = layer.recipe.steps.findLastIndex(
    (one) => !one.off && (one.op === "drop_shadow" || one.op === "block_shadow"),
  );
  const cast = layer.recipe.steps[shadow];
  const notes = reply.notes.map((note) => {
    const step = layer.recipe.steps[note.step];
    const set = (changed: Step) =>
      edit((one) => withStep(one, layer.id, note.step, () => changed), `${layer.id}.place.${note.step}`);
    if (note.tab && step?.op === "tab")
      return <TabHandle key={note.step} tab={note.tab} step={step} view={view} onChange={set} />;
    if (note.holes && step?.op === "hole")
      return <HolesHandle key={note.step} holes={note.holes} step={step} view={view} onChange={set} />;
    return null;
  });
  return (
    <>
      {notes}
      {job && (cast?.op === "drop_shadow" || cast?.op === "block_shadow") && (
        <ShadowHandle
          step={cast}
          job={job}
          view={view}
          onChange={(changed) =>
            edit((one) => withStep(one, layer.id, shadow, () => changed), `${layer.id}.shadow.${shadow}`)
          }
        />
      )}
    </>
  );
}

type Cast = StepOf<"drop_shadow"> | StepOf<"block_shadow">;
type ShadowProps = { step: Cast; job: number[]; view: View; onChange: (step: Cast) => void };

/** The way a shadow falls, as an arrow from the middle of the job; its tip is held. */
function ShadowHandle({ step, job: [x0 = 0, y0 = 0, x1 = 0, y1 = 0], view, onChange }: ShadowProps) {
  const unit = useUnit();
  // The middle moves with the shadow: while the arrow is held, it stays where it began.
  const [held, setHeld] = useState<Point | null>(null);
  const { x, y } = held ?? { x: (x0 + x1) / 2, y: (y0 + y1) / 2 };
  const round = snap(view.scale, unit);
  const most = { min: -1000, max: 1000 };
  const set = (dx: number, dy: number, by: number) =>
    onChange({ ...step, dx: snapped(dx, by, most), dy: snapped(dy, by, most) });
  const told = `${length(step.dx, unit)} across, ${length(step.dy, unit)} up`;
  const key = unit === "mm" ? 0.1 : 25.4 / 64;
  const [fromX, fromY] = [view.x + x * view.scale, view.y - y * view.scale];
  return (
    <g>
      <path
        d={`M${fromX},${fromY}L${fromX + step.dx * view.scale},${fromY - step.dy * view.scale}`}
        className="stroke-halo"
        strokeWidth={2.5}
      />
      <Handle
        x={x + step.dx}
        y={y + step.dy}
        view={view}
        name="shadow-handle"
        label="Way of the shadow: drag it, or use the arrow keys"
        now={step.dx}
        value={told}
        tell={told}
        onHold={(holds) => setHeld(holds ? { x, y } : null)}
        onDrag={(px, py) => set(px - x, py - y, round)}
        onKeys={(right, up) => set(step.dx + right * key, step.dy + up * key, key)}
      />
    </g>
  );
}

type Of<Op extends "tab" | "hole", At> = {
  step: StepOf<Op>;
  view: View;
  onChange: (step: StepOf<Op>) => void;
} & At;

function TabHandle({ tab, step, view, onChange }: Of<"tab", { tab: TabAt }>) {
  const [x = 0, y = 0] = tab.at_mm;
  const [x0 = 0, y0 = 0, x1 = 1, y1 = 1] = tab.box_mm;
  const set = (at: number) => onChange({ ...step, at: Math.round((((at % 360) + 360) % 360) * 10) / 10 });
  return (
    <Handle
      x={x}
      y={y}
      view={view}
      name="tab-handle"
      label="Place of the tab along the edge: drag it, or use the arrow keys"
      now={step.at}
      value={`${step.at} degrees`}
      // Directions are measured in the box: 45 degrees is its corner, whatever its shape.
      onDrag={(px, py) =>
        set((Math.atan2((2 * py - y0 - y1) / (y1 - y0), (2 * px - x0 - x1) / (x1 - x0)) * 180) / Math.PI)
      }
      onKeys={(right, up) => set(step.at + up - right)}
    />
  );
}

/** How near a share has to be to an edge or the middle of the box to snap to it, in pixels. */
const SNAP = 6;

function HolesHandle({ holes, step, view, onChange }: Of<"hole", { holes: HolesAt }>) {
  // The hole nearest the middle of the row is held; the row goes with it.
  const held = Math.floor((holes.at_mm.length - 1) / 2);
  const [x = 0, y = 0] = holes.at_mm[held] ?? [];
  const [x0 = 0, y0 = 0, x1 = 1, y1 = 1] = holes.box_mm;
  const { at, row } = step;
  // By the row, not by where holes were built last: while dragging that is a little behind.
  const off = held - ((row?.count ?? 1) - 1) / 2;
  const aside = { x: off * (row?.dx ?? 0), y: off * (row?.dy ?? 0) };
  const set = (px: number, py: number, snap: number) =>
    onChange({
      ...step,
      at: {
        ...at,
        x: share(px - aside.x, x0, x1, at.x, snap),
        y: share(py - aside.y, y0, y1, at.y, snap),
      },
    });
  return (
    <Handle
      x={x}
      y={y}
      view={view}
      name="hole-handle"
      label={`Place of ${holes.at_mm.length > 1 ? "the holes" : "the hole"}: drag it, or use the arrow keys`}
      now={Math.round(at.x * 100)}
      value={`${Math.round(at.x * 100)} % across, ${Math.round(at.y * 100)} % up`}
      onDrag={(px, py) => set(px, py, SNAP / view.scale)}
      onKeys={(right, up) => set(x + right / 2, y + up / 2, 0)}
    />
  );
}

/** The share of the way from `low` to `high`, where the box has any width; the edges and the middle hold it. */
function share(at: number, low: number, high: number, before: number, snap: number): number {
  if (Math.abs(high - low) < 1e-6) return before;
  const found = (at - low) / (high - low);
  const held = [0, 0.5, 1].find((one) => Math.abs(found - one) * Math.abs(high - low) < snap);
  return held ?? Math.round(Math.min(2, Math.max(-1, found)) * 10_000) / 10_000;
}

function Handle(props: {
  x: number;
  y: number;
  view: View;
  name: string;
  label: string;
  now: number;
  value: string;
  /** What is said beside it while it is held. */
  tell?: string;
  onHold?: (held: boolean) => void;
  onDrag: (x: number, y: number) => void;
  onKeys: (right: number, up: number) => void;
}) {
  const { x, y, view, name, label, now, value, tell, onHold, onDrag, onKeys } = props;
  const [told, setTold] = useState(false);
  const drag = useDrag<Point>({
    begin: () => {
      onHold?.(true);
      setTold(true);
      return { x, y };
    },
    move: (start, event, from) => {
      const by = wayOf(event, from, view);
      onDrag(start.x + by.x, start.y + by.y);
    },
    end: () => {
      onHold?.(false);
      setTold(false);
    },
  });
  const keys = (event: KeyboardEvent) => {
    const size = event.shiftKey ? 10 : 1;
    const ways: Record<string, [number, number]> = {
      ArrowLeft: [-size, 0],
      ArrowRight: [size, 0],
      ArrowUp: [0, size],
      ArrowDown: [0, -size],
    };
    const way = ways[event.key];
    if (!way) return;
    onKeys(...way);
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      {told && tell && (
        <text
          x={view.x + x * view.scale + 14}
          y={view.y - y * view.scale - 12}
          className="fill-ink stroke-sheet font-semibold text-sm [paint-order:stroke]"
          strokeWidth={4}
        >
          {tell}
        </text>
      )}
      <circle
        cx={view.x + x * view.scale}
        cy={view.y - y * view.scale}
        r={9}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuenow={now}
        aria-valuetext={value}
        data-testid={name}
        strokeWidth={3}
        className="pointer-events-auto cursor-grab touch-none fill-sheet/60 stroke-halo active:cursor-grabbing"
        onKeyDown={keys}
        {...drag}
      />
    </>
  );
}
