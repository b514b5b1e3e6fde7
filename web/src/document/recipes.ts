// Pure edits of recipes: new steps, places that follow, names that go.

import { STEPS } from "../api/facts";
import { forgetCarved } from "./carving";
import { forgetWords } from "./nameList";
import type { Anchor, Design, Recipe, Step, StepOf, StepOp } from "./types";

/** A step with sensible values; `operand` is what a combining step starts with. */
export function newStep<Op extends StepOp>(op: Op, operand: Recipe = { from: [], steps: [] }): StepOf<Op> {
  const { starts, recipes } = STEPS[op];
  // A recipe that may be left out is null from the start.
  const taken = Object.fromEntries(
    recipes.filter((field) => !(field in starts)).map((field) => [field, operand]),
  );
  // What starts lack of a step is its operand, which the facts tell of.
  const made: unknown = { ...structuredClone(starts), ...taken };
  return made as StepOf<Op>;
}

/** Take an id out of every recipe, and out of all that refers to it. */
export function forgetSource(design: Design, id: string): Design {
  const accepted = design.accepted.filter((one) => one.layer !== id && one.spot?.art !== id);
  const forget = (recipe: Recipe): Recipe => {
    const changed = mapRecipe(recipe, (anchors) => anchors.filter((anchor) => anchor.art !== id), forget);
    return { ...changed, from: changed.from.filter((name) => name !== id) };
  };
  const layers = design.layers.map((layer) => ({
    ...layer,
    cut_with: layer.cut_with.filter((other) => other !== id),
  }));
  const names = forgetWords(design.names, id);
  return changeRecipes({ ...forgetCarved(design, id), layers, accepted, names }, forget);
}

/** A recipe with its picked places and nested recipes changed: the model says which fields hold them. */
export function mapRecipe(
  recipe: Recipe,
  anchors: (all: Anchor[]) => Anchor[],
  nested: (one: Recipe) => Recipe,
): Recipe {
  const steps = recipe.steps.map((step): Step => {
    const facts = STEPS[step.op];
    const changed: Record<string, unknown> = { ...step };
    for (const field of facts.anchors) {
      const held = changed[field] as Anchor[] | null;
      changed[field] = held && anchors(held);
    }
    for (const field of facts.recipes) {
      const held = changed[field] as Recipe | null;
      const made = held && nested(held);
      // One that may be left out is, once nothing goes into it.
      changed[field] = field in facts.starts && !made?.from.length ? null : made;
    }
    return changed as Step;
  });
  return { ...recipe, steps };
}

export function changeRecipes(design: Design, change: (recipe: Recipe) => Recipe): Design {
  return { ...design, layers: design.layers.map((layer) => ({ ...layer, recipe: change(layer.recipe) })) };
}

/** Recipes that a step holds. */
function held(step: Step): Recipe[] {
  const fields: Record<string, unknown> = { ...step };
  return STEPS[step.op].recipes.flatMap((field) => (fields[field] as Recipe | null) ?? []);
}

/** Ids of all that a recipe names itself, in operands too. */
export function named(recipe: Recipe): string[] {
  return [...recipe.from, ...recipe.steps.flatMap((step) => held(step).flatMap(named))];
}

/** Ids of all that a recipe is made from, through other layers, too. */
export function sourcesOf(design: Design, recipe: Recipe): string[] {
  const layers = new Map(design.layers.map((one) => [one.id, one]));
  const found = new Set<string>();
  const visit = (id: string) => {
    if (found.has(id)) return;
    found.add(id);
    for (const name of named(layers.get(id)?.recipe ?? { from: [], steps: [] })) visit(name);
  };
  for (const name of named(recipe)) visit(name);
  return [...found];
}

/** Whether `layer` would be made from itself if it took `source` as a source. */
export function wouldCircle(design: Design, layer: string, source: string): boolean {
  const layers = new Map(design.layers.map((one) => [one.id, one]));
  const seen = new Set<string>();
  const reaches = (id: string): boolean => {
    if (id === layer) return true;
    if (seen.has(id)) return false;
    seen.add(id);
    return named(layers.get(id)?.recipe ?? { from: [], steps: [] }).some(reaches);
  };
  return reaches(source);
}

/** The design with another step at a place of a layer's recipe. */
export function withStep(design: Design, id: string, index: number, change: (step: Step) => Step): Design {
  return {
    ...design,
    layers: design.layers.map((layer) => {
      const step = layer.recipe.steps[index];
      if (layer.id !== id || !step) return layer;
      const steps = layer.recipe.steps.with(index, change(step));
      return { ...layer, recipe: { ...layer.recipe, steps } };
    }),
  };
}

/** The design with one step of a layer switched off. */
export function withoutStep(design: Design, id: string, index: number): Design {
  return withStep(design, id, index, (step) => ({ ...step, off: true }));
}

/** A step from elsewhere as a layer can have it: without what is not in the design, or is made from that layer. */
export function stepHere(design: Design, layer: string, step: Step, operand: Recipe): Step {
  const known = new Set(design.art.map((one) => one.id));
  for (const one of design.layers) if (!wouldCircle(design, layer, one.id)) known.add(one.id);
  const fit = (recipe: Recipe): Recipe => ({
    ...mapRecipe(recipe, (anchors) => anchors.filter((anchor) => known.has(anchor.art)), fit),
    from: recipe.from.filter((id) => known.has(id)),
  });
  // What loses all that it takes from begins with what lies across, as a new step does.
  const filled = (recipe: Recipe): Recipe =>
    recipe.from.length > 0 ? recipe : { ...recipe, from: operand.from };
  const [made = step] = mapRecipe(
    { from: [], steps: [step] },
    (anchors) => anchors.filter((anchor) => known.has(anchor.art)),
    (recipe) => filled(fit(recipe)),
  ).steps;
  return made;
}
