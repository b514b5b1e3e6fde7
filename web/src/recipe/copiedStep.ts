// The step that was copied last, for any layer of any design, also in other windows.

import { STEPS } from "../api/facts";
import type { Step } from "../document/types";
import { say } from "../ui/toast";

const CLIPBOARD = "tinhalo.step";

export function copyStep(step: Step): void {
  try {
    localStorage.setItem(CLIPBOARD, JSON.stringify(step));
    say("Copied: a layer’s list of steps offers to paste it.");
  } catch {
    say("That is too much to copy.");
  }
}

/** The copied step; null where there is none, or something else. */
export function copiedStep(): Step | null {
  try {
    const found = JSON.parse(localStorage.getItem(CLIPBOARD) ?? "null") as Step | null;
    return found && Object.hasOwn(STEPS, found.op) ? found : null;
  } catch {
    return null;
  }
}
