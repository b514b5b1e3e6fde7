// Pure edits of layers. Each gives a new document and leaves the old one for the undo history.

import { LAYER } from "../api/facts";
import { freeId } from "./names";
import { forgetSource, newStep } from "./recipes";
import type { Design, Layer, OwnMaterial, Recipe, Step } from "./types";

function newLayer(id: string, name: string, material: string, recipe: Recipe): Layer {
  return { ...structuredClone(LAYER), id, name, material, recipe };
}

/** Colours for new layers; they differ in lightness, too. */
const COLOURS = ["#d69a2d", "#1d8275", "#3d3a6b", "#c8452f", "#9db8c9", "#5b3a29"];

/** A layer in a colour of its own where it would look like the one beside it. */
function toldApart(design: Design, layer: Layer, beside: Layer | undefined): Layer {
  if (beside?.material !== layer.material || beside.colour !== layer.colour) return layer;
  const free = COLOURS.find((colour) => design.layers.every((other) => other.colour !== colour));
  return { ...layer, colour: free ?? layer.colour };
}

export function patchLayer(design: Design, id: string, patch: Partial<Layer>): Design {
  return {
    ...design,
    layers: design.layers.map((layer) => (layer.id === id ? { ...layer, ...patch } : layer)),
  };
}

export function addLayer(design: Design): Design {
  const bottom = design.layers.at(-1);
  const from = bottom ? [bottom.id] : design.art.map((art) => art.id);
  const id = freeId(design, "layer");
  const layer = newLayer(id, `Layer ${design.layers.length + 1}`, "ply-3", {
    from,
    // Its outer edge alone: openings under a face only show where something went wrong.
    steps: [newStep("offset"), newStep("fill_holes")],
  });
  return { ...design, layers: [...design.layers, toldApart(design, layer, bottom)] };
}

/** A layer with a recipe of its own, under all others or over them. */
export function addLayerOf(design: Design, name: string, recipe: Recipe, where: "under" | "over"): Design {
  const beside = where === "under" ? design.layers.at(-1) : design.layers[0];
  const made = newLayer(freeId(design, "layer"), name, beside?.material ?? LAYER.material, recipe);
  const layer = toldApart(design, made, beside);
  return { ...design, layers: where === "under" ? [...design.layers, layer] : [layer, ...design.layers] };
}

/** A layer made from another one, right under the layer `beside` or over it. */
export function addFrom(
  design: Design,
  id: string,
  below: boolean,
  make: (source: Layer) => Pick<Layer, "name" | "process"> & { steps: Step[]; colour?: string | null },
  beside = id,
): Design {
  const source = design.layers.find((layer) => layer.id === id);
  const index = design.layers.findIndex((layer) => layer.id === beside);
  if (!source || index < 0) return design;
  const { name, process, steps, colour = source.colour } = make(source);
  const made = newLayer(freeId(design, "layer"), name, source.material, { from: [source.id], steps });
  return {
    ...design,
    layers: design.layers.toSpliced(below ? index + 1 : index, 0, { ...made, process, colour }),
  };
}

export function offsetBy(by: number): Step {
  return { ...newStep("offset"), by };
}

export const title = (layer: Layer) => layer.name.trim() || layer.id;

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
    steps: [newStep("fill_holes"), offsetBy(-3)],
  }));
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

/** Layers in a colour; in none they have that of their materials again. */
export function colourLayers(design: Design, ids: string[], colour: string | null): Design {
  return ids.reduce((made, id) => patchLayer(made, id, { colour }), design);
}

/** The design with a layer made of another material, in a colour or its usual one; one's own goes along with it. */
export function madeOf(
  design: Design,
  layer: string,
  material: OwnMaterial,
  own: boolean,
  colour: string | null = null,
): Design {
  const made = patchLayer(design, layer, { material: material.id, colour });
  const others = design.materials.filter((one) => one.id !== material.id);
  // Only what layers are made of goes along.
  const worn = [...made.layers, ...made.colour_ways.flatMap((way) => way.layers)];
  const used = others.filter((one) => worn.some((each) => each.material === one.id));
  return { ...made, materials: own ? [...used, material] : used };
}
