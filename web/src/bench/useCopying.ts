// Copy, cut, paste and duplicate by keys: what is picked on the stage, or else the layer that is worked on.

import { useEffect } from "react";
import { removeArt } from "../document/art";
import { copied, duplicated, pasted, readCopied } from "../document/copying";
import { removeLayer } from "../document/layers";
import type { Design } from "../document/types";
import { select, selectLayer, useSelection } from "../state/selection";
import { edit, now } from "../state/timeline";
import { isKey, type KeyName } from "../ui/keys";
import { say } from "../ui/toast";

/** Where what was copied waits: designs open one after the other, also in other windows. */
const CLIPBOARD = "tinhalo.copied";

function selected(): string | null {
  const { picked, layer } = useSelection.getState();
  return picked ?? layer;
}

export function copy(id: string): void {
  try {
    localStorage.setItem(CLIPBOARD, JSON.stringify(copied(now(), [id])));
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

export function duplicate(id: string): void {
  put(duplicated(now(), id));
}

function put({ design, ids: [first] }: { design: Design; ids: string[] }): void {
  edit(() => design);
  if (design.layers.some((one) => one.id === first)) {
    select({ picked: null, letter: null });
    selectLayer(first ?? null);
  } else select({ picked: first ?? null, letter: null });
}

function cut(id: string): void {
  copy(id);
  edit((design) => (design.art.some((one) => one.id === id) ? removeArt : removeLayer)(design, id));
  select({ picked: null, letter: null });
}

const ACTS: [KeyName, (id: string) => void][] = [
  ["copy", copy],
  ["cut", cut],
  ["duplicate", duplicate],
];

export function useCopyKeys(): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      // In a field these keys are for its text; a selection of text is copied as such.
      const target = event.target as HTMLElement;
      if (target.matches?.("input, textarea, [role=dialog] *") || getSelection()?.toString()) return;
      const id = selected();
      const [, act] = ACTS.find(([name]) => isKey(event, name)) ?? [];
      if (isKey(event, "paste")) paste();
      else if (act && id) act(id);
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
}
