// Layers that step out evenly under another one: a set with one count and one width of a step.

import { addFrom, offsetBy, patchLayer, removeLayer, title } from "./layers";
import { round } from "./place";
import { newStep } from "./recipes";
import type { Design, Layer } from "./types";

/** Layers whose edges lie 1, 2, … times `by` mm outside the edge of the layer that they step out from. */
export type StepSet = { layers: string[]; by: number };

/** Widths in mm that differ by less are one width. */
const SAME_MM = 0.005;

/**
 * The layers that step out evenly from the layer `id`; null where there are no two. A layer whose width is no multiple
 * of the step is not of the set: that is how one is taken out of it.
 */
export function stepsUnder(design: Design, id: string): StepSet | null {
  const top = design.layers.find((layer) => layer.id === id);
  if (!top) return null;
  const starts = [JSON.stringify([top.recipe.from, top.recipe.steps]), JSON.stringify([[id], []])];
  const candidates = design.layers.flatMap((layer) => {
    const at = outwards(layer);
    const step = layer.recipe.steps[at];
    const start = JSON.stringify([layer.recipe.from, layer.recipe.steps.slice(0, at)]);
    return step?.op === "offset" && step.by > 0 && starts.includes(start)
      ? [{ id: layer.id, out: step.by }]
      : [];
  });
  let best: StepSet | null = null;
  for (const { out } of candidates)
    for (let number = 1; number <= candidates.length; number++) {
      const by = out / number;
      const layers: string[] = [];
      for (let next = 1; ; next++) {
        const step = candidates.find((one) => Math.abs(one.out - by * next) < SAME_MM);
        if (!step) break;
        layers.push(step.id);
      }
      if (layers.length > Math.max(1, best?.layers.length ?? 0)) best = { layers, by: round(by, 4) };
    }
  return best;
}

/** The design with one layer for each of the colours stepping out from the layer `id`, each by `by` mm further. */
export function stepOut(design: Design, id: string, colours: string[], by: number): Design {
  const there = stepsUnder(design, id)?.layers ?? [];
  const fewer = there.slice(colours.length).reduce(removeLayer, design);
  let result = there
    .slice(0, colours.length)
    .reduce((changed, layer, index) => withOffset(changed, layer, by * (index + 1)), fewer);
  for (let number = colours.length; number > there.length; number--)
    result = addFrom(
      result,
      id,
      true,
      (layer) => ({
        name: `${title(layer)}, step ${number}`,
        process: "cut",
        colour: colours[number - 1] ?? null,
        steps: [offsetBy(round(by * number, 4)), newStep("fill_holes")],
      }),
      there.at(-1),
    );
  return result;
}

/** Which step lets a layer step out: an offset, after which only gaps and holes are closed; -1 where none does. */
function outwards({ recipe }: Layer): number {
  const at = recipe.steps.findLastIndex((step) => step.op === "offset");
  const closed = recipe.steps.slice(at + 1).map((step) => step.op);
  const closes =
    closed.includes("fill_holes") && closed.every((op) => op === "fill_holes" || op === "close_gaps");
  return closes ? at : -1;
}

function withOffset(design: Design, id: string, by: number): Design {
  const layer = design.layers.find((one) => one.id === id);
  const at = layer ? outwards(layer) : -1;
  const step = layer?.recipe.steps[at];
  if (!layer || step?.op !== "offset") return design;
  const steps = layer.recipe.steps.with(at, { ...step, by: round(by, 4) });
  return patchLayer(design, id, { recipe: { ...layer.recipe, steps } });
}
