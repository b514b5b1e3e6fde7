// A mend is run, and what it brings along is mended with it; one undo takes all of that back.

import { useEffect, useRef, useState } from "react";
import { api, type Mend, Problem } from "../api/client";
import type { Design } from "../document/types";
import { select } from "../state/selection";
import { edit, now, useTimeline } from "../state/timeline";
import { sayUndoable } from "../state/undoable";
import { attempt, fail } from "../ui/Failure";
import { say } from "../ui/toast";

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
    const asking = new AbortController();
    asked.current = asking;
    const late = setTimeout(() => setDoing(what), LONG_MS);
    const mended = async () => {
      const made = await makeChanges(mend, asking.signal, (offer) => void run(offer));
      // What a search offers has been said with what it found.
      if (made === "offered" || !made) return;
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

/**
 * Changes the document as the mend says; null where nothing had to be changed, which is told. What a search offers then
 * is said with what it found.
 */
async function makeChanges(
  mend: Mend,
  signal: AbortSignal,
  take: (offer: Mend) => void,
): Promise<Made | "offered" | null> {
  const before = now();
  const { document, told, offer } = await api.mend({ document: before, mend }, signal);
  if (!document) {
    const text = told ?? `${mend.title}: that is so already.`;
    say(text, offer ? { label: offer.title, run: () => take(offer) } : undefined);
    return null;
  }
  if (now() !== before) {
    fail("findings", `The design has changed meanwhile, so this was not done: ${mend.title}.`);
    return null;
  }
  const after = document;
  select({ spot: null });
  edit(() => after);
  if (offer) {
    say(told ?? mend.title, { label: offer.title, run: () => take(offer) });
    return "offered";
  }
  return { before, after, told: told ?? `${mend.title}: done.` };
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
