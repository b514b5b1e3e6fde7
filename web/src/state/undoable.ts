// A message with an undo of the very change it tells of, not of whatever has been done by then.

import type { Design } from "../document/types";
import { say } from "../ui/toast";
import { now, useTimeline } from "./timeline";

let said: (() => void)[] = [];

/** Another design is opened: what could be undone in the one before is no message any more. */
export function forgetUndoable() {
  for (const drop of said) drop();
  said = [];
}

/** @param made the design right after that change: as it stands, if it is told at once. */
export function sayUndoable(text: string, made: Design = now()) {
  const drop = say(text, {
    label: "Undo",
    run: () => {
      if (now() === made) useTimeline.getState().undo();
      else say("That is no longer the last change. The arrows at the top go back step by step.");
    },
  });
  said = [...said, drop];
}
