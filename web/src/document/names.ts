// Ids and names of what is in a design.

import { isDrawing, isLettering, isOutline, isPicture } from "./art";
import type { Art, Design, Drawing, OutlineArt, TracedPicture } from "./types";

/** What a design is called where nobody named it: the first line of its first words. */
function firstWords(design: Design): string {
  const words = design.art.find((one) => isLettering(one) && one.text.trim());
  return words && isLettering(words) ? (words.text.trim().split("\n")[0] ?? "").slice(0, 60) : "";
}

/** A changed design, whose name follows its first words as long as it was called after them. */
export function namedAfterWords(before: Design, after: Design): Design {
  const [was, is] = [firstWords(before), firstWords(after)];
  if (was === is || !is || before.name !== after.name) return after;
  return before.name === was || before.name === "Untitled" ? { ...after, name: is } : after;
}

/** An id that nothing in the design has yet. */
export function freeId(design: Design, stem: string): string {
  const taken = new Set([...design.art, ...design.layers].map((thing) => thing.id));
  for (let number = 1; ; number++) {
    const id = number === 1 ? stem : `${stem}-${number}`;
    if (!taken.has(id)) return id;
  }
}

/** What art is called in a sentence: the words themselves, or the kind of shape. */
export function artName(art: Art): string {
  if (isDrawing(art)) return drawingName(art);
  if (isPicture(art)) return pictureName(art);
  if (isOutline(art)) return outlineName(art);
  if (!isLettering(art)) return shapeName(art.shape);
  const text = art.text.replace(/\s+/g, " ").trim();
  if (!text) return art.id;
  return text.length > 22 ? `${text.slice(0, 21)}…` : text;
}

/** The same of a picture; of one of its tones, which. */
export function pictureName(art: TracedPicture): string {
  const name = art.name.replace(/\.[^.]*$/, "") || art.id;
  return art.trace.tone > 1 ? `${name}, tone ${art.trace.tone}` : name;
}

/** What the file of a drawing is called, without its ending. */
export function drawingName(art: Drawing): string {
  return art.name.replace(/\.[^.]*$/, "") || art.id;
}

/** What an outline was called when it became one. */
export function outlineName(art: OutlineArt): string {
  return art.name.replace(/\s+/g, " ").trim() || (art.made_of ? artName(art.made_of) : art.id);
}

/** “speech bubble”. */
export function shapeName(shape: string): string {
  return shape.replace("_", " ");
}

/** What a source is called in a sentence: a layer's name, or what its art is called. */
export function sourceName(design: Design, id: string): string {
  const layer = design.layers.find((one) => one.id === id);
  if (layer) return layer.name.trim() || layer.id;
  const art = design.art.find((one) => one.id === id);
  return art ? artName(art) : id;
}
