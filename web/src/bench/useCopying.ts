// Copy, cut, paste and duplicate by keys: what is picked on the stage, or else the layer that is worked on.

import { useEffect } from "react";
import { removeArt } from "../document/art";
import { copied, duplicated, pasted, readCopied } from "../document/copying";
import { removeLayer } from "../document/layers";
import { sourceName } from "../document/names";
import type { Design } from "../document/types";
import { editOutline } from "../outlines/turning";
import { allPicked, select, selectLayer, useSelection } from "../state/selection";
import { edit, now } from "../state/timeline";
import { sayUndoable } from "../state/undoable";
import { isKey, type KeyName } from "../ui/keys";
import { say } from "../ui/toast";

/** Where what was copied waits: designs open one after the other, also in other windows. */
const CLIPBOARD = "tinhalo.copied";

/** The art that is picked, or else the layer that is worked on. */
function selected(): string[] {
  const { layer } = useSelection.getState();
  const art = allPicked();
  return art.length > 0 || layer === null ? art : [layer];
}

export function copy(...ids: string[]): void {
  try {
    localStorage.setItem(CLIPBOARD, JSON.stringify(copied(now(), ids)));
    // What was on the system's clipboard before is not what is pasted next.
    void navigator.clipboard?.writeText(`${ids.length} of Tin Halo`).catch(() => undefined);
  } catch {
    // The browser keeps a few megabytes only.
    say("That is too much to copy.");
  }
}

export function canPaste(): boolean {
  return readCopied(localStorage.getItem(CLIPBOARD)) !== null;
}

export function paste(): void {
  const clip = readCopied(localStorage.getItem(CLIPBOARD));
  if (clip) put(pasted(now(), clip));
  else say("Nothing is copied yet.");
}

export function duplicate(...ids: string[]): void {
  put(duplicated(now(), ids));
}

function put({ design, ids: [first, ...others] }: { design: Design; ids: string[] }): void {
  edit(() => design);
  if (design.layers.some((one) => one.id === first)) {
    select({ picked: null });
    selectLayer(first ?? null);
  } else select({ picked: first ?? null, also: others });
}

function remove(...ids: string[]): void {
  const [first = ""] = ids;
  const name = sourceName(now(), first);
  edit((design) =>
    ids.reduce(
      (made, id) => (made.art.some((one) => one.id === id) ? removeArt : removeLayer)(made, id),
      design,
    ),
  );
  select({ picked: null });
  sayUndoable(ids.length === 1 ? `“${name}” is gone.` : `“${name}” and ${ids.length - 1} more are gone.`);
}

function cut(...ids: string[]): void {
  copy(...ids);
  remove(...ids);
}

const ACTS: [KeyName, (...ids: string[]) => void][] = [
  ["copy", copy],
  ["cut", cut],
  ["duplicate", duplicate],
  ["remove", remove],
];

export function useCopyKeys(): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      // In a field these keys are for its text; a selection of text is copied as such.
      const target = event.target as HTMLElement;
      if (
        target.matches?.("input, textarea, [role=dialog] *, [role=menu] *, [role=listbox] *") ||
        getSelection()?.toString()
      )
        return;
      const { nodal, nodes } = useSelection.getState();
      if (nodal !== null) {
        // Nodes are shown: these keys are for them, and not for a layer that was worked on before.
        if (isKey(event, "remove") && nodes.length > 0) {
          void editOutline(nodal, { op: "remove_nodes", nodes });
          event.preventDefault();
        }
        return;
      }
      const ids = selected();
      const [, act] = ACTS.find(([name]) => isKey(event, name)) ?? [];
      // Pasting is an event of its own: files may be on the clipboard.
      if (!act || ids.length === 0) return;
      act(...ids);
      event.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
}
