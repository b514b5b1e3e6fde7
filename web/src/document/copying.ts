// Copy and paste of words, shapes and layers, within a design and between designs: what a layer is made from goes along.

import { isLettering, joinBeside } from "./art";
import { freeId } from "./names";
import { mapRecipe, sourcesOf } from "./recipes";
import type { Anchor, Art, Design, Layer, Lettering, OwnMaterial, Recipe } from "./types";

/** What is on the clipboard; layers from the top of the stack to the bottom. */
export type Copied = {
  format: "tin-halo/copied";
  /** Ids of what was picked: the rest is what that is made from. */
  picked: string[];
  art: Art[];
  layers: Layer[];
  materials: OwnMaterial[];
};

/** So far (mm) to the right and down a copy of art stands from the original in the same design. */
const ASIDE = 5;

/** What is picked, with all art and layers that it is made from. */
export function copied(design: Design, picked: string[]): Copied {
  const wanted = new Set(picked);
  for (const layer of design.layers)
    if (wanted.has(layer.id)) for (const id of sourcesOf(design, layer.recipe)) wanted.add(id);
  const layers = design.layers.filter((one) => wanted.has(one.id));
  return {
    format: "tin-halo/copied",
    picked,
    art: design.art.filter((one) => wanted.has(one.id)),
    layers,
    materials: design.materials.filter((one) => layers.some((layer) => layer.material === one.id)),
  };
}

/** Read what was copied; null where the text is something else. */
export function readCopied(text: string | null): Copied | null {
  try {
    const found = JSON.parse(text ?? "") as Partial<Copied> | null;
    return found?.format === "tin-halo/copied" ? (found as Copied) : null;
  } catch {
    return null;
  }
}

/**
 * The design with what was copied, and the ids of what was picked there. What the design has just so already is not
 * brought again; picked art is a copy of its own, in all layers that the original is in.
 */
export function pasted(design: Design, clip: Copied): { design: Design; ids: string[] } {
  const names = new Map<string, string>();
  let made = design;
  for (const art of clip.art) {
    const there = made.art.find((one) => one.id === art.id);
    const own = clip.picked.includes(art.id);
    if (!own && there && same(there, art)) continue;
    const id = freeId(made, art.id);
    names.set(art.id, id);
    const place = own && there ? { ...art.place, x: art.place.x + ASIDE, y: art.place.y - ASIDE } : art.place;
    made = { ...made, art: [...made.art, { ...structuredClone(art), id, place }] };
    if (own && there) made = joinBeside(made, id, art.id);
  }
  const fresh: Layer[] = [];
  const origin = { ...design, art: clip.art, layers: clip.layers };
  const counterpart = (layer: Layer) => design.layers.find((one) => one.id === layer.id && same(one, layer));
  const other = new Set(clip.layers.filter((layer) => !counterpart(layer)).map((layer) => layer.id));
  for (const layer of clip.layers) {
    const there = design.layers.find((one) => one.id === layer.id);
    // Of other words, or of another layer, the same recipe is another layer.
    const elsewhere = sourcesOf(origin, layer.recipe).some((id) => names.has(id) || other.has(id));
    if (!clip.picked.includes(layer.id) && !elsewhere && counterpart(layer)) continue;
    const id = freeId({ ...made, layers: [...made.layers, ...fresh] }, layer.id);
    names.set(layer.id, id);
    const name = there ? `${layer.name.trim() || layer.id} copy` : layer.name;
    fresh.push({ ...structuredClone(layer), id, name });
  }
  const called = (id: string) => names.get(id) ?? id;
  const known = new Set([...made.art, ...made.layers, ...fresh].map((one) => one.id));
  const rename = (recipe: Recipe): Recipe => {
    const changed = mapRecipe(
      recipe,
      (anchors: Anchor[]) => anchors.map((anchor) => ({ ...anchor, art: called(anchor.art) })),
      rename,
    );
    return { ...changed, from: recipe.from.map(called).filter((id) => known.has(id)) };
  };
  const layers = fresh.map((layer) => ({
    ...layer,
    recipe: rename(layer.recipe),
    cut_with: layer.cut_with.map(called).filter((id) => known.has(id)),
  }));
  const art = made.art.map((one) => renamedArt(one, names, known));
  const materials = [
    ...made.materials,
    ...clip.materials.filter((one) => !made.materials.some((own) => own.id === one.id)),
  ];
  return {
    design: { ...made, art, layers: [...layers, ...made.layers], materials },
    ids: clip.picked.map(called),
  };
}

/** Copies of some art or of layers beside them. */
export function duplicated(design: Design, ids: string[]): { design: Design; ids: string[] } {
  return pasted(design, copied(design, ids));
}

/** Several blocks in the place of one, in all that is made from it. */
export function splitInto(design: Design, id: string, blocks: Lettering[]): Design {
  const [first, ...others] = blocks;
  if (!first) return design;
  let result: Design = { ...design, art: design.art.map((one) => (one.id === id ? { ...first, id } : one)) };
  let last = id;
  for (const block of others) {
    const own = freeId(result, id);
    result = joinBeside({ ...result, art: [...result.art, { ...block, id: own }] }, own, last);
    last = own;
  }
  return result;
}

/** Art whose shape or neighbour came along under another name; what did not come along it stands free of. */
function renamedArt(art: Art, names: Map<string, string>, known: Set<string>): Art {
  if (![...names.values()].includes(art.id)) return art;
  const to = (id: string) => names.get(id) ?? id;
  const against =
    art.against && known.has(to(art.against.art)) ? { ...art.against, art: to(art.against.art) } : null;
  if (!isLettering(art)) return { ...art, against };
  const into = art.into && known.has(to(art.into.art)) ? { ...art.into, art: to(art.into.art) } : null;
  return { ...art, against, into };
}

function same(one: unknown, other: unknown): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
