// Art turned into an outline of its own, and back; and what the server does with an outline.

import type { OutlineEdit } from "../api/answers";
import { api } from "../api/client";
import { isOutline, patchOutline } from "../document/art";
import { sourceName } from "../document/names";
import { select } from "../state/selection";
import { edit, now } from "../state/timeline";
import { sayUndoable } from "../state/undoable";
import { unlessChanged } from "../state/unlessChanged";

export async function turnArt(id: string, to: "outline" | "original"): Promise<void> {
  const name = sourceName(now(), id);
  await unlessChanged(
    () => api.turnArt({ document: now(), art: id, to }),
    (made) => {
      edit(() => made);
      select({ picked: null, art: id });
      if (to === "outline") select({ nodal: id });
      sayUndoable(
        to === "outline"
          ? `“${name}” is an outline now. What it was made of is kept with it.`
          : `“${sourceName(now(), id)}” is back; what was changed at its nodes is gone.`,
      );
    },
  );
}

/** @param taken the nodes that are taken afterwards; none where they are counted anew. */
export async function editOutline(id: string, wanted: OutlineEdit, taken: number[] = []): Promise<void> {
  const art = now().art.find((one) => one.id === id);
  if (!art || !isOutline(art)) return;
  await unlessChanged(
    () => api.editOutline({ path: art.path, edit: wanted }),
    ({ path }) => {
      if (path !== art.path) edit((design) => patchOutline(design, id, { path }));
      select({ nodes: taken });
    },
  );
}
