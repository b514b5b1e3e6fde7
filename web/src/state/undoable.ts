// A message with an undo of the very change it tells of, not of whatever has been done by then.

import type { Design } from "../document/types";
import { say } from "../ui/toast";
import { now, useTimeline } from "./timeline";

/** @param made the design right after that change: as it stands, if it is told at once. */
export function sayUndoable(text: string, made: Design = now()) {
  say(text, {
    label: "Undo",
    run: () => {
      if (now() === made) useTimeline.getState().undo();
      else say("That is no longer the last change. The arrows at the top go back step by step.");
    },
  });
}
