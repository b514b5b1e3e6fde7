// Undo and redo by keys. In a text box undo is of its own text; anything else is told before it is taken back.

import { useEffect } from "react";
import { changedPart } from "../document/difference";
import type { Design } from "../document/types";
import { lastGesture, now, useTimeline } from "../state/timeline";
import { isKey } from "../ui/keys";
import { say } from "../ui/toast";

/** What marks a text box, by the gesture that typing into it is. */
export const typedInto = (gesture: string) => ({ "data-typed": gesture });

export function useUndoKeys() {
  useEffect(() => {
    let asked: Design | null = null;
    let unsay = () => {};
    const undo = (box: HTMLElement | null) => {
      const { timeline, at, first, undo } = useTimeline.getState();
      const before = timeline[at - first - 1];
      const typed = box?.dataset.typed;
      if (!before) return;
      if (typed && asked !== now() && lastGesture() !== typed) {
        asked = now();
        unsay();
        unsay = say(`Undo once more takes back the change of ${changedPart(before, now())}.`);
        return;
      }
      asked = null;
      unsay();
      undo();
    };
    const keys = (event: KeyboardEvent) => {
      const back = isKey(event, "undo");
      const again = isKey(event, "redo");
      if (!back && !again) return;
      event.preventDefault();
      if (again || event.shiftKey) useTimeline.getState().redo();
      else undo((event.target as HTMLElement).closest?.<HTMLElement>("[data-typed]") ?? null);
    };
    addEventListener("keydown", keys);
    return () => removeEventListener("keydown", keys);
  }, []);
}
