// A message with an undo of the very change it tells of, not of whatever has been done by then.

import type { Design } from "../document/types";
import { say } from "../ui/toast";
import { current, useBench } from "./history";

/** @param made the design right after that change: as it stands, if it is told at once. */
export function sayUndoable(text: string, made: Design = current(useBench.getState())) {
  say(text, {
    label: "Undo",
    run: () => {
      const bench = useBench.getState();
      if (current(bench) === made) bench.undo();
      else say("That is no longer the last change. The arrows at the top go back step by step.");
    },
  });
}
