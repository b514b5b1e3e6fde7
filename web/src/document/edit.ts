// Pure edits of the document. Each gives a new document and leaves the old one for the undo history.

import { movedLetters, retext } from "./letters";
import type { Design, Layer, Lettering, OwnMaterial, Process, Recipe, Spot, Step, StepOp } from "./types";

/** A design with other words in its first block; what was set for single letters goes. */
export function withWords(design: Design, text: string): Design {
  const none = { moves: {}, nudges: {}, lowered: {} };
  const art = design.art.map((one, index) => (index === 0 ? { ...one, text, ...none } : one));
  return { ...design, art };
}

function newLettering(id: string, text: string): Lettering {
  return {
    id,
    kind: "lettering",
    text,
    font: "pacifico",
    size: 24,
    letter_spacing: 0,
    line_spacing: 1.2,
    align: "center",
    nudges: {},
    moves: {},
    join: null,
    lowered: {},
    features: {},
    axes: {},
    against: null,
    place: { x: 0, y: 0, rotate: 0, scale_x: 1, scale_y: 1 },
  };
}

function newLayer(id: string, name: string, material: string, recipe: Recipe): Layer {
  return { id, name, process: "cut", material, hidden: false, cut_with: [], recipe };
}

/** A step with sensible values; `operand` is what a combining step starts with. */
export function newStep(op: StepOp, operand: Recipe = { from: [], steps: [] }): Step {
  const off = false;
  switch (op) {
    case "offset":
      return { op, off, by: 4, corners: "round", miter_limit: 4 };
    case "outside":
      return { op, off };
    case "outline":
      return { op, off, gap: 1, width: 1.5, corners: "round" };
    case "fill_holes":
      return { op, off, smaller_than: null, narrower_than: null, only: null };
    case "close_gaps":
      return { op, off, up_to: 3 };
    case "open_gaps":
      return { op, off, to: 0.3 };
    case "stencil":
      return { op, off, only: null, count: 2, width: 2, angle: 90 };
    case "bridge":
      return { op, off, only: null, width: 2, up_to: 10 };
    case "thicken":
      return { op, off, by: null, to: 1, where: "thin", keep_open: null };
    case "round_off":
      return { op, off, outer: 1, inner: 0 };
    case "union":
    case "subtract":
    case "intersect":
      return { op, off, operand };
    case "bleed":
      return { op, off, operand, by: 1 };
    case "underlap":
      return { op, off, operand, by: 0.3, within: 0.2 };
    case "drop_shadow":
      return { op, off, dx: 1.5, dy: -1.5, underlap: 0.3, visible_only: false };
    case "block_shadow":
      return { op, off, dx: 3, dy: -3 };
    case "plate":
      return { op, off, shape: "rounded", margin: 6, width: null, height: null, corner_radius: 5 };
    case "tab":
      return { op, off, hole: 4, rim: 2.5, reach: 2.5, at: 135, along: null };
    case "hole":
      return { op, off, diameter: 4, at: { x: 0.5, y: 1, inset: 4 }, row: null };
    case "stitch":
      return {
        op,
        off,
        length: 3,
        spacing: 1.5,
        slant: 0,
        inset: 2,
        width: null,
        outer_only: false,
      };
    case "wall":
      return { op, off, width: 0.8, side: "outside" };
    case "place":
      return { op, off, dx: 0, dy: 0, turn: 0, scale_x: 1, scale_y: 1, mirror: false, about: "itself" };
    case "tidy":
      return { op, off, area: 4, width: null, holes_too: false };
    case "keep":
    case "drop":
      return { op, off, pieces: [] };
  }
}

function freeId(design: Design, stem: string): string {
  const taken = new Set([...design.art, ...design.layers].map((thing) => thing.id));
  for (let number = 1; ; number++) {
    const id = number === 1 ? stem : `${stem}-${number}`;
    if (!taken.has(id)) return id;
  }
}

export function changeArt(design: Design, id: string, change: (art: Lettering) => Lettering): Design {
  return { ...design, art: design.art.map((art) => (art.id === id ? change(art) : art)) };
}

export function patchArt(design: Design, id: string, patch: Partial<Lettering>): Design {
  return changeArt(design, id, (art) => ({ ...art, ...patch }));
}

export function patchLayer(design: Design, id: string, patch: Partial<Layer>): Design {
  return {
    ...design,
    layers: design.layers.map((layer) => (layer.id === id ? { ...layer, ...patch } : layer)),
  };
}

/** Add a block of words under the others and show it in the layers that are made from words alone. */
export function addArt(design: Design): Design {
  const last = design.art.at(-1);
  const art = newLettering(freeId(design, "words"), "More words");
  const below = last ? last.place.y - last.size * last.line_spacing * last.text.split("\n").length : 0;
  const placed = { ...art, font: last?.font ?? art.font, place: { ...art.place, y: below } };
  const made: Design = { ...design, art: [...design.art, placed] };
  const all = new Set(design.art.map((a) => a.id));
  return {
    ...made,
    layers: made.layers.map((layer) =>
      [...all].every((id) => layer.recipe.from.includes(id))
        ? { ...layer, recipe: { ...layer.recipe, from: [...layer.recipe.from, art.id] } }
        : layer,
    ),
  };
}

/** Take out a block of words, and its name from every recipe. */
export function removeArt(design: Design, id: string): Design {
  const kept = design.art.filter((art) => art.id !== id);
  const art = kept.map((one) => (one.against?.art === id ? { ...one, against: null } : one));
  const without: Design = { ...design, art };
  return forgetSource(without, id);
}

export function addLayer(design: Design): Design {
  const bottom = design.layers.at(-1);
  const from = bottom ? [bottom.id] : design.art.map((art) => art.id);
  const id = freeId(design, "layer");
  const layer = newLayer(id, `Layer ${design.layers.length + 1}`, "ply-3", {
    from,
    steps: [newStep("offset")],
  });
  return { ...design, layers: [...design.layers, layer] };
}

/** A layer made from another one, right under it or over it. */
function addFrom(
  design: Design,
  id: string,
  below: boolean,
  make: (source: Layer) => { name: string; process: Process; steps: Step[] },
): Design {
  const index = design.layers.findIndex((layer) => layer.id === id);
  const source = design.layers[index];
  if (!source) return design;
  const { name, process, steps } = make(source);
  const made = newLayer(freeId(design, "layer"), name, source.material, { from: [source.id], steps });
  return { ...design, layers: design.layers.toSpliced(below ? index + 1 : index, 0, { ...made, process }) };
}

function offsetBy(by: number): Step {
  return { ...newStep("offset"), by } as Step;
}

const title = (layer: Layer) => layer.name.trim() || layer.id;

/** An area to engrave that leaves a rim of the layer standing. */
export function addEngraved(design: Design, id: string): Design {
  return addFrom(design, id, false, (layer) => ({
    name: `${title(layer)}, engraved`,
    process: "engrave",
    steps: [offsetBy(-1)],
  }));
}

/** A line to score on the layer below, that hides under this one once it is glued on. */
export function addPlacingLine(design: Design, id: string): Design {
  return addFrom(design, id, true, (layer) => ({
    name: `Placing line for ${title(layer)}`,
    process: "score",
    steps: [offsetBy(-0.25)],
  }));
}

/** A line along the inside of the layer's edge. */
export function addBorderLine(design: Design, id: string): Design {
  return addFrom(design, id, false, (layer) => ({
    name: `Border line on ${title(layer)}`,
    process: "score",
    steps: [newStep("outside"), offsetBy(-3)],
  }));
}

/** Layers under this one, each further out than the one above by the same distance everywhere. */
export function addStepCopies(design: Design, id: string, count: number, by: number): Design {
  let made = design;
  for (let number = count; number > 0; number--)
    made = addFrom(made, id, true, (layer) => ({
      name: `${title(layer)}, step ${number}`,
      process: "cut",
      steps: [offsetBy(Math.round(by * number * 1e4) / 1e4)],
    }));
  return made;
}

export function duplicateLayer(design: Design, id: string): Design {
  const index = design.layers.findIndex((layer) => layer.id === id);
  const layer = design.layers[index];
  if (!layer) return design;
  const copy = { ...layer, id: freeId(design, layer.id), name: `${layer.name} copy` };
  return { ...design, layers: design.layers.toSpliced(index + 1, 0, copy) };
}

/** Take out a layer, and its name from every recipe. */
export function removeLayer(design: Design, id: string): Design {
  return forgetSource({ ...design, layers: design.layers.filter((layer) => layer.id !== id) }, id);
}

/** Move a layer to another place in the stack. */
export function moveLayer(design: Design, id: string, to: number): Design {
  const from = design.layers.findIndex((layer) => layer.id === id);
  const layer = design.layers[from];
  const place = Math.max(0, Math.min(design.layers.length - 1, to));
  if (!layer || place === from) return design;
  return { ...design, layers: design.layers.toSpliced(from, 1).toSpliced(place, 0, layer) };
}

function forgetSource(design: Design, id: string): Design {
  const accepted = design.accepted.filter((one) => one.layer !== id && one.spot?.art !== id);
  const forget = (recipe: Recipe): Recipe => {
    const changed = mapRecipe(recipe, (spots) => spots.filter((spot) => spot.art !== id), forget);
    return { ...changed, from: changed.from.filter((name) => name !== id) };
  };
  const layers = design.layers.map((layer) => ({
    ...layer,
    cut_with: layer.cut_with.filter((other) => other !== id),
  }));
  return changeRecipes({ ...design, layers, accepted }, forget);
}

/** A recipe with its picked spots and nested recipes changed. */
function mapRecipe(recipe: Recipe, spots: (all: Spot[]) => Spot[], nested: (one: Recipe) => Recipe): Recipe {
  const steps = recipe.steps.map((step): Step => {
    if ("operand" in step) return { ...step, operand: nested(step.operand) };
    if (step.op === "tab") {
      const along = step.along && nested(step.along);
      return { ...step, along: along?.from.length ? along : null };
    }
    if ("only" in step) return { ...step, only: step.only && spots(step.only) };
    return "pieces" in step ? { ...step, pieces: spots(step.pieces) } : step;
  });
  return { ...recipe, steps };
}

function changeRecipes(design: Design, change: (recipe: Recipe) => Recipe): Design {
  return { ...design, layers: design.layers.map((layer) => ({ ...layer, recipe: change(layer.recipe) })) };
}

/** Change the text of a block, with all that was set for its letters: there, and as picked places in recipes. */
export function retextArt(
  design: Design,
  id: string,
  text: string,
  caret: number,
  selected: { start: number; end: number } | null,
): Design {
  const art = design.art.find((one) => one.id === id);
  if (!art || art.text === text) return design;
  const moved = movedLetters(art.text, text, caret, selected);
  const follow = (spots: Spot[]) =>
    spots.map((spot) => {
      const letter = spot.art === id ? moved.get(spot.letter) : spot.letter;
      // A letter that is gone takes its place with it, past the end of any text: an undo brings both back.
      return { ...spot, letter: letter ?? GONE };
    });
  const change = (recipe: Recipe): Recipe => mapRecipe(recipe, follow, change);
  const accepted = design.accepted.map((one) => ({
    ...one,
    spot: one.spot && (follow([one.spot])[0] ?? null),
  }));
  return changeRecipes(
    changeArt({ ...design, accepted }, id, (one) => retext(one, text, caret, selected)),
    change,
  );
}

const GONE = 20_000;

function named(recipe: Recipe): string[] {
  return [
    ...recipe.from,
    ...recipe.steps.flatMap((step) => {
      if ("operand" in step) return named(step.operand);
      return step.op === "tab" && step.along ? named(step.along) : [];
    }),
  ];
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

/** What a source is called in a sentence: a layer's name, or the words themselves. */
export function sourceName(design: Design, id: string): string {
  const layer = design.layers.find((one) => one.id === id);
  if (layer) return layer.name.trim() || layer.id;
  const text = design.art
    .find((one) => one.id === id)
    ?.text.replace(/\s+/g, " ")
    .trim();
  if (!text) return id;
  return text.length > 22 ? `${text.slice(0, 21)}…` : text;
}

/** The design with a layer made of another material; one's own goes along with the design. */
export function madeOf(design: Design, layer: string, material: OwnMaterial, own: boolean): Design {
  const made = patchLayer(design, layer, { material: material.id });
  const others = design.materials.filter((one) => one.id !== material.id);
  // Only what layers are made of goes along.
  const used = others.filter((one) => made.layers.some((each) => each.material === one.id));
  return { ...made, materials: own ? [...used, material] : used };
}

/** Words with the dots and accents of these letters moved until they are that deep in them, in mm. */
export function lowerMarks(art: Lettering, letters: number[], overlap: number): Lettering {
  const set = Object.fromEntries(letters.map((letter) => [letter, overlap]));
  return { ...art, lowered: { ...art.lowered, ...set } };
}
