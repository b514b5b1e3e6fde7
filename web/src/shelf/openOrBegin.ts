// What a file given to the shelf becomes: the design in it, or a new one around the drawing or picture that it is.

import { api, type DesignState, Problem } from "../api/client";
import { addFile } from "../document/art";
import type { Design } from "../document/types";

/** What is a drawing or picture by its name. A PNG may be either: a proof carries its design. */
const BEGUN_FROM = /\.(svgz?|dxf|jpe?g|webp|tiff?|gif)$/i;

export async function openOrBegin(file: File): Promise<DesignState> {
  if (BEGUN_FROM.test(file.name)) return begin(file);
  try {
    return await api.openFile(file);
  } catch (error) {
    if (!(error instanceof Problem) || !/\.png$/i.test(file.name)) throw error;
    return begin(file);
  }
}

/** A new design of a drawing or picture, with a border behind it as the plainest starter has. */
async function begin(file: File): Promise<DesignState> {
  const [brought, starters] = await Promise.all([api.bringIn(file), api.starters()]);
  const plain = starters[0]?.document as Design;
  const empty = { ...plain, name: brought.name.replace(/\.[^.]*$/, ""), art: [], layers: [] };
  const design = addFile(empty, brought, { x: 0, y: 0 });
  const [art] = design.art;
  const backer = plain.layers.at(-1);
  if (!art || !backer) return api.create(design);
  return api.create({
    ...design,
    layers: [...design.layers, { ...backer, recipe: { ...backer.recipe, from: [art.id] } }],
  });
}
