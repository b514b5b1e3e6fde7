// Pure edits of art: words and shapes. Each gives a new document and leaves the old one for the undo history.

import { DRAWING, INTO, SHAPES, TRACED, TRACING, WORDS } from "../api/facts";
import { addLayerOf, patchLayer } from "./layers";
import { movedLetters, retext } from "./letters";
import { freeId, pictureName, shapeName } from "./names";
import { type Box, round } from "./place";
import { changeRecipes, forgetSource, mapRecipe, newStep } from "./recipes";
import type {
  Anchor,
  Art,
  Design,
  Drawing,
  Lettering,
  OutlineArt,
  Place,
  Recipe,
  Shape,
  ShapeName,
  TracedPicture,
} from "./types";

export const isLettering = (art: Art): art is Lettering => art.kind === "lettering";
/** What the server has of a file: enough to make art of it. */
type Brought = { id: string; name: string; kind: "drawing" | "picture"; width_mm: number };

export const isDrawing = (art: Art): art is Drawing => art.kind === "drawing";
export const isPicture = (art: Art): art is TracedPicture => art.kind === "picture";
export const isOutline = (art: Art): art is OutlineArt => art.kind === "outline";
export const isShape = (art: Art): art is Shape => art.kind === "shape";

/** Change one piece of art, whatever kind it is. */
export function changeArt(design: Design, id: string, change: (art: Art) => Art): Design {
  return { ...design, art: design.art.map((art) => (art.id === id ? change(art) : art)) };
}

/** Change what all kinds of art have. */
export function patchArt(design: Design, id: string, patch: Partial<Pick<Art, "place" | "against">>): Design {
  return changeArt(design, id, (art) => ({ ...art, ...patch }));
}

/** A piece of art as it is placed now, and others moved by as much as it was. */
export function placeTogether(design: Design, id: string, place: Place, others: string[]): Design {
  const before = design.art.find((one) => one.id === id)?.place;
  if (!before) return design;
  const [dx, dy] = [place.x - before.x, place.y - before.y];
  const moved = (at: number, by: number) => Number((at + by).toFixed(4));
  return others.reduce(
    (made, other) =>
      changeArt(made, other, (art) => ({
        ...art,
        place: { ...art.place, x: moved(art.place.x, dx), y: moved(art.place.y, dy) },
      })),
    patchArt(design, id, { place }),
  );
}

/** Change one block of words. */
export function changeWords(design: Design, id: string, change: (words: Lettering) => Lettering): Design {
  return changeArt(design, id, (art) => (isLettering(art) ? change(art) : art));
}

export function patchWords(design: Design, id: string, patch: Partial<Lettering>): Design {
  return changeWords(design, id, (words) => ({ ...words, ...patch }));
}

/** Change one shape's own measures. */
export function patchShape(design: Design, id: string, patch: Record<string, number>): Design {
  return changeArt(design, id, (art) => (isShape(art) ? { ...art, ...patch } : art));
}

/** Another shape at the same place, of the same width and height. */
export function reshape(design: Design, id: string, shape: ShapeName): Design {
  return changeArt(design, id, (art) =>
    isShape(art)
      ? { ...newShape(art.id, shape), ...sizeOf(art), place: art.place, against: art.against }
      : art,
  );
}

const sizeOf = ({ width, height }: Shape) => ({ width, height });

function newShape(id: string, shape: ShapeName): Shape {
  return { ...structuredClone(SHAPES[shape].starts), id };
}

/**
 * More words, under those named, in all that is made from these: in a knockout they are cut away with them. Where none
 * are named they go with the last ones.
 */
export function addWords(design: Design, beside?: string): Design {
  const blocks = design.art.filter(isLettering);
  const last = blocks.find((one) => one.id === beside) ?? blocks.at(-1);
  const id = freeId(design, "words");
  const starts = structuredClone(WORDS.starts);
  const below = last ? last.place.y - last.size * (last.line_spacing ?? 1) * last.text.split("\n").length : 0;
  const art: Lettering = {
    ...starts,
    id,
    text: "More words",
    font: last?.font ?? "pacifico",
    place: { ...starts.place, y: below },
  };
  const added = { ...design, art: [...design.art, art] };
  return last ? joinBeside(added, id, last.id) : addToTop(added, id);
}

/** What is written in a drawing, set as words under it, in all that is made from it. */
export function setText(
  design: Design,
  drawing: string,
  text: string,
  under: { x: number; y: number },
): Design {
  const id = freeId(design, "words");
  const starts = structuredClone(WORDS.starts);
  const font = design.art.find(isLettering)?.font ?? "pacifico";
  const art: Lettering = { ...starts, id, text, font, size: 12, place: { ...starts.place, ...under } };
  return joinBeside({ ...design, art: [...design.art, art] }, id, drawing);
}

/** Art in all recipes that other art is in. */
export function joinBeside(design: Design, id: string, beside: string): Design {
  const join = (recipe: Recipe): Recipe => {
    const changed = mapRecipe(recipe, (anchors) => anchors, join);
    return recipe.from.includes(beside) ? { ...changed, from: [...recipe.from, id] } : changed;
  };
  return changeRecipes(design, join);
}

/** The first words of a design of shapes go into the layer on top. */
function addToTop(design: Design, id: string): Design {
  const [top] = design.layers;
  if (!top) return design;
  return patchLayer(design, top.id, { recipe: { ...top.recipe, from: [...top.recipe.from, id] } });
}

/** Add a shape with its middle at a place, and a layer under all others that is made from it: so it can be seen. */
export function addShape(design: Design, shape: ShapeName, middle: { x: number; y: number }): Design {
  const id = freeId(design, shape.replace("_", "-"));
  const fresh = newShape(id, shape);
  const art: Shape = { ...fresh, place: { ...fresh.place, ...middle } };
  const name = shapeName(shape);
  const title = `${name.charAt(0).toUpperCase()}${name.slice(1)}`;
  return addLayerOf({ ...design, art: [...design.art, art] }, title, { from: [id], steps: [] }, "under");
}

/** Add a drawing or a picture with its middle at a place, and a layer over all others that is made from it. */
export function addFile(design: Design, brought: Brought, middle: { x: number; y: number }): Design {
  const { id: file, name, kind } = brought;
  const title = name.replace(/\.[^.]*$/, "") || "Drawing";
  const stem = title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 40);
  const id = freeId(design, stem || "drawing");
  const drawing = structuredClone(DRAWING.starts);
  const traced = { ...structuredClone(TRACED.starts), trace: structuredClone(TRACING.starts) };
  const place = { ...drawing.place, ...middle };
  const width = Math.min(Math.max(round(brought.width_mm, 2), 1), 5000);
  const art: Art =
    kind === "picture" ? { ...traced, id, file, name, place, width } : { ...drawing, id, file, name, place };
  const called = `${title.charAt(0).toUpperCase()}${title.slice(1)}`.slice(0, 200);
  return addLayerOf({ ...design, art: [...design.art, art] }, called, { from: [id], steps: [] }, "over");
}

export function patchPicture(design: Design, id: string, patch: Partial<TracedPicture>): Design {
  return changeArt(design, id, (art) => (isPicture(art) ? { ...art, ...patch } : art));
}

/** A piece of art for each tone of a picture, and a layer from each: the lightest, which is the largest, lowest. */
export function partTones(design: Design, id: string, tones: number): Design {
  const art = design.art.filter(isPicture).find((one) => one.id === id);
  if (!art) return design;
  let made = patchPicture(design, id, { trace: { ...art.trace, tones, tone: 1 } });
  const others = design.art.filter(isPicture).filter((one) => one.id !== id && one.file === art.file);
  for (const { id: own, trace } of others)
    made =
      trace.tone > tones ? removeArt(made, own) : patchPicture(made, own, { trace: { ...trace, tones } });
  for (let tone = 2; tone <= tones; tone++) {
    if (others.some((one) => one.trace.tone === tone)) continue;
    const own = freeId(made, `${id}-tone`);
    const added: TracedPicture = { ...art, id: own, trace: { ...art.trace, tones, tone } };
    const recipe = { from: [own], steps: [] };
    made = addLayerOf({ ...made, art: [...made.art, added] }, pictureName(added), recipe, "over");
  }
  return made;
}

export function patchOutline(design: Design, id: string, patch: Partial<OutlineArt>): Design {
  return changeArt(design, id, (art) => (isOutline(art) ? { ...art, ...patch } : art));
}

export function patchDrawing(design: Design, id: string, patch: Partial<Drawing>): Design {
  return changeArt(design, id, (art) => (isDrawing(art) ? { ...art, ...patch } : art));
}

/** Words set into a shape, or into none: moved up or down into its middle, and closed up, so that they hold together. */
export function intoShape(
  design: Design,
  id: string,
  shape: string | null,
  words: Box | null,
  frame: Box | null,
): Design {
  return changeWords(design, id, (one) => {
    if (shape === null) return { ...one, into: null };
    const up =
      words && frame && one.into?.art !== shape ? (frame[1] + frame[3] - words[1] - words[3]) / 2 : 0;
    return {
      ...one,
      into: { ...INTO.starts, ...one.into, art: shape },
      join: one.join ?? { overlap: 0.3, apart: [], marks: false },
      place: { ...one.place, y: round(one.place.y + up, 4) },
    };
  });
}

/** A layer of a shape's frame and the words that are set into it, over all others. */
export function framed(design: Design, id: string): Design {
  const words = design.art.filter(isLettering).find((one) => one.id === id);
  const into = words?.into;
  const shape = design.art.find((one) => one.id === into?.art);
  if (!into || !shape) return design;
  const joined = newStep("union", { from: [id], steps: [] });
  // A ring is its own frame; a drawing or an outline may have holes that the words go across.
  const wall = { ...newStep("wall"), width: into.frame, side: "inside" as const };
  const steps = isShape(shape)
    ? shape.shape === "ring"
      ? [joined]
      : [wall, joined]
    : [newStep("fill_holes"), wall, joined];
  return addLayerOf(design, "Frame and words", { from: [shape.id], steps }, "over");
}

/** Take out a piece of art, and its name from every recipe and from what stands by it. */
export function removeArt(design: Design, id: string): Design {
  const art = design.art
    .filter((one) => one.id !== id)
    .map((one): Art => {
      const free = one.against?.art === id ? { ...one, against: null } : one;
      return isLettering(free) && free.into?.art === id ? { ...free, into: null } : free;
    });
  return forgetSource({ ...design, art }, id);
}

/** Change the text of a block, with all that was set for its letters: there, and as picked places in recipes. */
export function retextWords(
  design: Design,
  id: string,
  text: string,
  caret: number,
  selected: { start: number; end: number } | null,
): Design {
  const words = design.art.filter(isLettering).find((one) => one.id === id);
  if (!words || words.text === text) return design;
  const moved = movedLetters(words.text, text, caret, selected);
  const follow = (anchors: Anchor[]) =>
    anchors.map((anchor) => {
      const part = anchor.art === id ? moved.get(anchor.part) : anchor.part;
      // A letter that is gone takes its place with it, past the end of any text: an undo brings both back.
      return { ...anchor, part: part ?? GONE };
    });
  const change = (recipe: Recipe): Recipe => mapRecipe(recipe, follow, change);
  const accepted = design.accepted.map((one) => ({
    ...one,
    spot: one.spot && (follow([one.spot])[0] ?? null),
  }));
  return changeRecipes(
    changeWords({ ...design, accepted }, id, (one) => retext(one, text, caret, selected)),
    change,
  );
}

const GONE = 20_000;

/** Words with the dots and accents of these letters moved until they are that deep in them, in mm. */
export function lowerMarks(words: Lettering, letters: number[], overlap: number): Lettering {
  const set = Object.fromEntries(letters.map((letter) => [letter, overlap]));
  return { ...words, lowered: { ...words.lowered, ...set } };
}
