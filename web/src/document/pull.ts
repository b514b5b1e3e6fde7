// What a pull on a layer's edge changes: the last distance that its outer edge comes from.

import { STEPS } from "../api/facts";
import type { Recipe, Step, Unit } from "./types";

export type Pull = {
  /** Index of the step in the recipe. */
  step: number;
  label: string;
  /** In mm. */
  value: number;
  min: number;
  max: number;
  set: (value: number) => Step;
};

/** Steps that leave the outer edge where it is, or move it here and there only. */
const KEEPING = new Set<Step["op"]>([
  "fill_holes",
  "close_gaps",
  "open_gaps",
  "round_off",
  "tidy",
  "hole",
  "tab",
  "bridge",
  "stencil",
  "keep",
  "drop",
  "underlap",
  "bleed",
]);

/** What follows a pull on the outer edge of what a recipe makes; null where no distance does. */
export function pullOf(recipe: Recipe): Pull | null {
  const index = recipe.steps.findLastIndex((step) => !step.off && !KEEPING.has(step.op));
  const step = recipe.steps[index];
  if (step?.op === "offset") return made(index, step, "by", "Distance", step.by);
  if (step?.op === "outline") return made(index, step, "gap", "Gap to the line", step.gap);
  if (step?.op === "wall") return made(index, step, "width", "Width of the wall", step.width);
  if (step?.op === "plate" && step.width === null) return made(index, step, "margin", "Margin", step.margin);
  return null;
}

function made(index: number, step: Step, field: string, label: string, value: number): Pull {
  const { min, above, max = 1000 } = STEPS[step.op].ranges[field] ?? {};
  const least = above === undefined ? (min ?? -1000) : above + 0.05;
  return {
    step: index,
    label,
    value,
    min: least,
    max,
    set: (next) => ({ ...step, [field]: next }) as Step,
  };
}

const ROUND_MM = [0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10];
const ROUND_INCH = [1 / 128, 1 / 64, 1 / 32, 1 / 16, 1 / 8, 1 / 4, 1 / 2].map((inch) => inch * 25.4);

/** How far apart the values (mm) are that a drag snaps to: round ones, about a pixel apart. */
export function snap(scale: number, unit: Unit): number {
  const steps = unit === "mm" ? ROUND_MM : ROUND_INCH;
  return steps.find((one) => one * scale >= 1) ?? (steps.at(-1) as number);
}

/** A value on the nearest step, within its limits. */
export function snapped(value: number, step: number, { min, max }: Pick<Pull, "min" | "max">): number {
  const near = Math.round(value / step) * step;
  return Number(Math.max(min, Math.min(max, near)).toFixed(4));
}
