// A mend is run, and what it brings along is mended with it; one undo takes all of that back.

import { useEffect, useRef, useState } from "react";
import { api, type Mend, Problem } from "../api/client";
import type { Design } from "../document/types";
import { select, selectLayer } from "../state/selection";
import { edit, now, useTimeline } from "../state/timeline";
import { sayUndoable } from "../state/undoable";
import { attempt, fail } from "../ui/Failure";
import { say } from "../ui/toast";
import { searchIn, seek } from "./seeking";

/** `doing` says what goes on while it takes long. */
export type Mending = { run: (mend: Mend, cause?: string) => void; doing: string | null; cancel: () => void };

/** Shorter than this nobody needs to be told that something goes on. */
const LONG_MS = 300;

/** `what` is said meanwhile; with `follow` what a mend brings along is mended, too. */
export function useMending(what = "Mending…", follow = true): Mending {
  const [doing, setDoing] = useState<string | null>(null);
  const asked = useRef(new AbortController());
  // What was asked of a design is no answer for the next one.
  useEffect(() => () => asked.current.abort(), []);

  const run = async (mend: Mend, cause?: string) => {
    asked.current.abort();
    const find = searchIn(mend);
    if (find) {
      selectLayer(find.layer);
      return seek(find, mend.changes.slice(0, -1));
    }
    const asking = new AbortController();
    asked.current = asking;
    const late = setTimeout(() => setDoing(what), LONG_MS);
    const mended = async () => {
      const made = await makeChanges(mend, asking.signal);
      if (!made) return;
      if (follow) sayUndoable(...(await lookAfter(made, asking, cause ?? null)));
      else sayUndoable(made.told);
    };
    await attempt("findings", () =>
      mended().catch((error) => {
        if (!asking.signal.aborted) throw error;
      }),
    ).finally(() => {
      clearTimeout(late);
      if (asked.current === asking) setDoing(null);
    });
  };

  return { run: (mend, cause) => void run(mend, cause), doing, cancel: () => asked.current.abort() };
}

type Made = { before: Design; after: Design; told: string };

/** Changes the document as the mend says; null where nothing had to be changed, which is told. */
async function makeChanges(mend: Mend, signal: AbortSignal): Promise<Made | null> {
  const before = now();
  const { document: after } = await api.mend({ document: before, mend }, signal);
  if (!after) {
    say(`${mend.title}: that is so already.`);
    return null;
  }
  if (now() !== before) {
    fail("findings", `The design has changed meanwhile, so this was not done: ${mend.title}.`);
    return null;
  }
  select({ spot: null });
  edit(() => after);
  return { before, after, told: `${mend.title}: done.` };
}

/** Mends what changes brought along, unless somebody goes on before: what to say then, and of which document. */
async function lookAfter(
  { before, after, told }: Made,
  asking: AbortController,
  cause: string | null,
): Promise<[string, Design]> {
  const stop = useTimeline.subscribe((state) => {
    if (state.timeline[state.at - state.first] !== after) asking.abort();
  });
  try {
    const { document, also, brought } = await api.followMend({ before, after, cause }, asking.signal);
    const [first, ...more] = brought;
    const rest = more.length > 0 ? ` And ${more.length} more.` : "";
    const brings = first ? ` It brings something new: ${first.sentence}${rest}` : "";
    const better = document;
    if (!better || !useTimeline.getState().amend(after, better)) return [told + brings, after];
    return [`${told} With it: ${also.join("; ")}.${brings}`, better];
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return [told, after];
  } finally {
    stop();
  }
}
