// A number tried at several values: the values themselves, the step that it belongs to, and several of them at once.

import { STEPS } from "../api/facts";
import { freeId } from "./names";
import { round } from "./place";
import { newStep } from "./recipes";
import type { Design, Layer, Recipe, Step } from "./types";

/** Evenly spaced values from one to another, and the present one among them, in ascending order. */
export function valuesBetween(from: number, to: number, count: number, present: number): number[] {
  const even = Array.from({ length: count }, (_, index) =>
    round(from + ((to - from) * index) / (count - 1), 4),
  );
  return [...new Set([...even, round(present, 4)])].sort((one, other) => one - other);
}

/** The layers of `changed` whose recipes are not as in `design`. */
function changedLayers(design: Design, changed: Design): Layer[] {
  const before = new Map(design.layers.map((layer) => [layer.id, layer.recipe]));
  return changed.layers.filter((layer) => before.get(layer.id) !== layer.recipe);
}

/** The design with the step switched off that an edit changed; null where it changed no step, or more than one. */
export function withoutChangedStep(design: Design, changed: Design): Design | null {
  const [layer, ...others] = changedLayers(design, changed);
  const before = design.layers.find((one) => one.id === layer?.id);
  const recipe = layer && before && others.length === 0 ? switchedOff(before.recipe, layer.recipe) : null;
  if (!recipe) return null;
  return {
    ...design,
    layers: design.layers.map((one) => (one.id === layer?.id ? { ...one, recipe } : one)),
  };
}

/** A recipe with the innermost step switched off in which another one differs from it. */
function switchedOff(recipe: Recipe, other: Recipe): Recipe | null {
  const index = recipe.steps.findIndex((step, at) => step !== other.steps[at]);
  const step = recipe.steps[index];
  const changed = other.steps[index];
  if (!step || changed?.op !== step.op || recipe.steps.length !== other.steps.length) return null;
  for (const field of STEPS[step.op].recipes) {
    const [held, its] = [step, changed].map((one) => (one as Record<string, unknown>)[field]);
    const inner = held && its && held !== its ? switchedOff(held as Recipe, its as Recipe) : null;
    if (inner) return { ...recipe, steps: recipe.steps.with(index, { ...step, [field]: inner } as Step) };
  }
  return step.off ? null : { ...recipe, steps: recipe.steps.with(index, { ...step, off: true }) };
}

/** A design at one of the values, as it is named on the screen. */
export type Variant = { title: string; design: Design };

/** Whether what changes is a layer's own recipe: only that can be taken several times. */
export const changesLayers = (design: Design, variants: Variant[]): boolean =>
  variants.some((variant) => changedLayers(design, variant.design).length > 0);

/**
 * The design with the changed layers of several variants side by side, each `apart` mm to the right of the one before.
 * The first variant's stay in their place, and what is made from them follows it.
 */
export function sideBySide(design: Design, variants: Variant[], apart: number): Design {
  const [first, ...others] = variants;
  if (!first) return design;
  // One of them may be the present value, in which nothing changed.
  const ids = new Set(variants.flatMap((one) => changedLayers(design, one.design).map((layer) => layer.id)));
  let result = first.design;
  for (const [index, variant] of others.entries())
    for (const layer of variant.design.layers.filter((one) => ids.has(one.id))) {
      const move = { ...newStep("place"), dx: round(apart * (index + 1), 4) };
      const copy: Layer = {
        ...layer,
        id: freeId(result, layer.id),
        name: `${layer.name.trim() || layer.id}, ${variant.title}`,
        recipe: { ...layer.recipe, steps: [...layer.recipe.steps, move] },
      };
      const at = result.layers.findIndex((one) => one.id === layer.id);
      result = { ...result, layers: result.layers.toSpliced(at + 1, 0, copy) };
    }
  return result;
}
