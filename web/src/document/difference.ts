// What is different between two documents that follow each other, in a few words: what an undo would take back.

import { artName } from "./names";
import type { Art, Design, Layer } from "./types";

/** “the layer Backer”: what a change was of. */
export function changedPart(before: Design, after: Design): string {
  const art = firstChanged(before.art, after.art);
  if (art) return `“${artName(art)}”`;
  const layer = firstChanged(before.layers, after.layers);
  if (layer) return `the layer ${layer.name.trim() || layer.id}`;
  return before.name !== after.name ? "the name of the design" : "a setting of the design";
}

function firstChanged<One extends Art | Layer>(before: One[], after: One[]): One | undefined {
  const changed = after.find(
    (one) =>
      !equal(
        one,
        before.find((other) => other.id === one.id),
      ),
  );
  return changed ?? before.find((one) => !after.some((other) => other.id === one.id));
}

/** Those that came from the server share no objects. */
function equal(one: unknown, other: unknown): boolean {
  return one === other || JSON.stringify(one) === JSON.stringify(other);
}
