// What findings change in the document: mends, and acceptances.

import type { Finding, Mend } from "../api/client";
import { changeArt, lowerMarks, patchLayer } from "./edit";
import type { Design, Step } from "./types";

/** The design with the changes of a mend that a finding offers. */
export function mended(design: Design, mend: Mend): Design {
  return mend.changes.reduce(changed, design);
}

function changed(design: Design, change: Mend["changes"][number]): Design {
  switch (change.change) {
    case "step":
      return withStep(design, change.layer, change.step as Step, change.at);
    case "close_up":
      return changeArt(design, change.art, (art) => ({ ...art, join: change.join }));
    case "lower_marks":
      return changeArt(design, change.art, (art) => lowerMarks(art, [change.letter], change.overlap));
    case "process":
      return patchLayer(design, change.layer, { process: change.process });
    case "find_place":
      // A search: the server's answer changes the document.
      return design;
  }
}

/** The design with one more step at the end of a layer's recipe, or in place of the one at that index. */
function withStep(design: Design, id: string, step: Step, at: number | null): Design {
  const layers = design.layers.map((layer) => {
    if (layer.id !== id) return layer;
    const { steps } = layer.recipe;
    return { ...layer, recipe: { ...layer.recipe, steps: steps.toSpliced(at ?? steps.length, 1, step) } };
  });
  return { ...design, layers };
}

/** The design with a finding let be, with the reason why. */
export function accepted(design: Design, { kind, layer, spot }: Finding, note: string): Design {
  return { ...design, accepted: [...design.accepted, { kind, layer, spot, note }] };
}

/** The design with a finding asked about again: the acceptance nearest to its place goes. */
export function reopened(design: Design, { kind, layer, spot }: Finding): Design {
  const away = (one: Design["accepted"][number]) =>
    one.spot && spot && one.spot.art === spot.art && one.spot.letter === spot.letter
      ? Math.hypot(one.spot.x - spot.x, one.spot.y - spot.y)
      : Number.MAX_VALUE;
  const [nearest] = design.accepted
    .filter((one) => one.kind === kind && one.layer === layer)
    .toSorted((a, b) => away(a) - away(b));
  return { ...design, accepted: design.accepted.filter((one) => one !== nearest) };
}
