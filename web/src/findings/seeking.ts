// A search for a place: while it goes on it shows where it looks, and what it found stays with the step it was for.

import { create } from "zustand";
import { api, type Change, type FindPlace, type Mend, type Placed, type PlaceLine } from "../api/client";
import type { Design } from "../document/types";
import { select } from "../state/selection";
import { edit, now, useTimeline } from "../state/timeline";
import { attempt, fail } from "../ui/Failure";

/** A search that goes on, and the step it is for. */
export type Seeking = { layer: string; step: number; line: PlaceLine | null; stop: () => void };

/** What one found: of `origin`, with these wishes; it is told as long as the art stays where it was put. */
type Answer = { find: FindPlace; origin: Design; placed: Placed; stands: Design };

type State = { seeking: Seeking | null; answers: Answer[] };

export const useSeeking = create<State>()(() => ({ seeking: null, answers: [] }));

/** The search that a mend ends with, if it does. */
export function searchIn(mend: Mend): FindPlace | null {
  const last = mend.changes.at(-1);
  return last?.change === "find_place" ? last : null;
}

/** What was found for a step of the design as it stands. */
export function answerFor(
  answers: Answer[],
  design: Design,
  layer: string,
  step: number,
): Answer | undefined {
  const recipe = (of: Design) => of.layers.find((one) => one.id === layer)?.recipe;
  return answers.find(
    ({ find, stands }) =>
      find.layer === layer &&
      find.step === step &&
      stands.art === design.art &&
      recipe(stands) === recipe(design),
  );
}

/** Looks for a place after other changes; asked again it goes on to another one. One undo takes all of it back. */
export async function seek(find: FindPlace, first: Change[] = []): Promise<void> {
  useSeeking.getState().seeking?.stop();
  const { layer, step } = find;
  const before = now();
  const last = answerFor(useSeeking.getState().answers, before, layer, step);
  const goesOn = last && first.length === 0 && alike(last.find, find);
  const asking = new AbortController();
  const stop = () => asking.abort();
  const { id } = useTimeline.getState();
  const here = () => useTimeline.getState().id === id;
  // What was asked of a design is no answer for the next one.
  const leave = useTimeline.subscribe(() => here() || stop());
  let best: Placed | null = null;
  let origin = goesOn ? last.origin : before;
  const show = (line: PlaceLine | null) => useSeeking.setState({ seeking: { layer, step, line, stop } });
  show(null);
  await attempt("findings", async () => {
    try {
      if (!goesOn) origin = await changed(before, first, asking.signal);
      const goOn = goesOn ? last.placed.go_on : null;
      for await (const line of api.seekPlace({ document: origin, find, go_on: goOn }, asking.signal)) {
        best = line.best ?? best;
        show(line);
      }
      if (best) settle(before, origin, find, best);
    } catch (error) {
      if (!asking.signal.aborted) throw error;
      if (best && here()) settle(before, origin, find, best);
    }
  }).finally(() => {
    leave();
    // Another search may have begun.
    if (useSeeking.getState().seeking?.stop === stop) useSeeking.setState({ seeking: null });
  });
}

/** The document with the art at the place, unless somebody went on before. */
function settle(before: Design, origin: Design, find: FindPlace, placed: Placed) {
  if (now() !== before) {
    return fail("findings", "The design has changed meanwhile, so nothing was moved.");
  }
  const { document } = placed;
  if (document) {
    select({ spot: null });
    edit(() => document);
  }
  const answer = { find, origin, placed, stands: now() };
  useSeeking.setState(({ answers }) => ({ answers: [answer, ...answers].slice(0, MOST) }));
}

/** So many answers are kept: undo comes back to them. */
const MOST = 50;

async function changed(design: Design, changes: Change[], signal: AbortSignal): Promise<Design> {
  if (changes.length === 0) return design;
  const { document } = await api.mend(
    { document: design, mend: { title: "", changes, here: false } },
    signal,
  );
  return document ?? design;
}

function alike(one: FindPlace, other: FindPlace): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
