// What a combining step starts with: the art that lies across, and for cutting away a channel around it.

import type { ArtReply } from "../api/answers";
import { isLettering } from "./art";
import { newStep, sourcesOf } from "./recipes";
import type { Design, Recipe, StepOp } from "./types";

type Placed = Pick<ArtReply, "id" | "bounds_mm">;

/** A channel is this wide at least (mm), and this share of the letters' size that it goes through. */
const LEAST = 1;
const SHARE = 1 / 40;

/** The recipe that a new step of a layer starts with. */
export function operandFor(
  design: Design,
  layer: string,
  recipe: Recipe,
  op: StepOp,
  placed: readonly Placed[],
): Recipe {
  const own = new Set(sourcesOf(design, recipe));
  for (const id of sourcesOf(design, design.layers.find((one) => one.id === layer)?.recipe ?? recipe))
    own.add(id);
  const others = design.art.filter((one) => !own.has(one.id));
  const across = (id: string) => {
    const box = placed.find((one) => one.id === id)?.bounds_mm;
    const boxes = placed.filter((one) => own.has(one.id)).map((one) => one.bounds_mm);
    return box ? Math.max(0, ...boxes.map((other) => (other ? shared(box, other) : 0))) : 0;
  };
  // Of equally good ones the last: what was added later lies over what was there.
  const [best] = others.toReversed().toSorted((a, b) => across(b.id) - across(a.id));
  const from = best ? [best.id] : design.art.slice(0, 1).map((one) => one.id);
  if (op !== "subtract" || !best) return { from, steps: [] };
  const sizes = design.art.filter(isLettering).flatMap((one) => (own.has(one.id) ? [one.size] : []));
  const by = Math.round(10 * Math.max(LEAST, SHARE * Math.max(0, ...sizes))) / 10;
  return { from, steps: [{ ...newStep("offset"), by }] };
}

type Box = readonly number[];

/** The area that two boxes share. */
function shared([x0 = 0, y0 = 0, x1 = 0, y1 = 0]: Box, [a0 = 0, b0 = 0, a1 = 0, b1 = 0]: Box): number {
  const wide = Math.min(x1, a1) - Math.max(x0, a0);
  const high = Math.min(y1, b1) - Math.max(y0, b0);
  return Math.max(0, wide) * Math.max(0, high);
}
