// Pure edits of the document. Each gives a new document and leaves the old one for the undo history.

import type { Design, Layer, Lettering, Recipe, Step, StepOp } from "./types";

export const FORMAT = "tin-halo/1";

/** A design to begin with: words, a face, and a backer 4 mm wider with its holes filled. */
export function blankDesign(): Design {
  return {
    format: FORMAT,
    name: "Untitled",
    unit: "mm",
    art: [newLettering("words", "Words")],
    layers: [
      newLayer("face", "Face", "acrylic-3", { from: ["words"], steps: [] }),
      newLayer("backer", "Backer", "ply-3", {
        from: ["words"],
        steps: [newStep("offset"), newStep("fill_holes")],
      }),
    ],
  };
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
    features: {},
    axes: {},
    against: null,
    place: { x: 0, y: 0, rotate: 0, scale_x: 1, scale_y: 1 },
  };
}

function newLayer(id: string, name: string, material: string, recipe: Recipe): Layer {
  return { id, name, process: "cut", material, hidden: false, recipe };
}

/** A step with sensible values; `operand` is what a combining step starts with. */
export function newStep(op: StepOp, operand: Recipe = { from: [], steps: [] }): Step {
  switch (op) {
    case "offset":
      return { op, by: 4, corners: "round", miter_limit: 4 };
    case "fill_holes":
      return { op };
    case "thicken":
      return { op, by: null, to: 1, where: "thin", keep_open: null };
    case "union":
    case "subtract":
    case "intersect":
      return { op, operand };
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
  const forget = (recipe: Recipe): Recipe => ({
    from: recipe.from.filter((name) => name !== id),
    steps: recipe.steps.map((step) =>
      "operand" in step ? { ...step, operand: forget(step.operand) } : step,
    ),
  });
  return { ...design, layers: design.layers.map((layer) => ({ ...layer, recipe: forget(layer.recipe) })) };
}

function named(recipe: Recipe): string[] {
  return [...recipe.from, ...recipe.steps.flatMap((step) => ("operand" in step ? named(step.operand) : []))];
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
