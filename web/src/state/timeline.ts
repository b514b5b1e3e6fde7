// The documents of the open design: a timeline, a place in it, and what of it the server has not been told about.
//
// An edit adds a document; edits of one gesture (a drag, a burst of typing) amend the last one, so that one undo
// takes the whole gesture back. `unsentFrom` is the earliest place the server has not been told about.

import { create } from "zustand";
import type { DesignState, SaveRequest } from "../api/client";
import { namedAfterWords } from "../document/names";
import type { Design, Unit } from "../document/types";

const KEPT = 200;
const GESTURE_PAUSE_MS = 900;

/** What becomes of a document. */
export type Change = (design: Design) => Design;

/** A change, and the gesture it is part of: changes of one gesture are undone together. */
export type Edit = { change: Change; gesture: string | undefined };

export type Timeline = {
  id: string;
  revision: number;
  first: number;
  at: number;
  timeline: Design[];
  unsentFrom: number;
  moved: boolean;
  /** The document as it was when the design was opened. */
  opened: Design | null;
  gesture: { name: string; when: number } | null;

  open: (state: DesignState) => void;
  close: () => void;
  edit: (change: Change, gesture?: string) => void;
  /** Another document in place of the last edit's, as long as that is the one that stands; whether it was. */
  amend: (made: Design, better: Design) => boolean;
  /** However long the hand rested: what comes next is of the same gesture. */
  holdGesture: () => void;
  endGesture: () => void;
  /** Forget the edits after a place in the timeline. */
  takeBack: (place: number) => void;
  undo: () => void;
  redo: () => void;
  takeUnsent: () => SaveRequest | null;
  putBack: (request: SaveRequest) => void;
  saved: (revision: number) => void;
  rebase: (theirs: DesignState, mineWins: boolean) => void;
};

export const useTimeline = create<Timeline>()((set, get) => ({
  id: "",
  revision: 0,
  first: 0,
  at: 0,
  timeline: [],
  unsentFrom: Number.POSITIVE_INFINITY,
  moved: false,
  opened: null,
  gesture: null,

  open: (state) => {
    set({ ...adopted(state), id: state.id });
    set({ opened: current(get()) });
  },
  close: () => set({ id: "", timeline: [], opened: null }),

  edit: (change, gesture) => {
    const { timeline, at, first, unsentFrom, gesture: last } = get();
    const before = current(get());
    const changed = change(before);
    if (changed === before) return;
    const after = namedAfterWords(before, changed);
    if (gesture !== undefined) gestures.set(after, gesture);
    const now = performance.now();
    const amends = gesture !== undefined && last?.name === gesture && now - last.when < GESTURE_PAUSE_MS;
    const place = amends ? at : at + 1;
    const kept = [...timeline.slice(0, place - first), after];
    const surplus = Math.max(0, kept.length - KEPT);
    set({
      timeline: kept.slice(surplus),
      first: first + surplus,
      at: place,
      unsentFrom: Math.min(unsentFrom, place),
      gesture: gesture === undefined ? null : { name: gesture, when: now },
    });
  },

  amend: (made, better) => {
    const { timeline, at, first, unsentFrom } = get();
    if (current(get()) !== made) return false;
    set({
      timeline: timeline.with(at - first, better),
      unsentFrom: Math.min(unsentFrom, at),
      gesture: null,
    });
    return true;
  },

  holdGesture: () => {
    const { gesture } = get();
    if (gesture) set({ gesture: { ...gesture, when: performance.now() } });
  },

  endGesture: () => set({ gesture: null }),

  takeBack: (place) => {
    const { at, first, timeline } = get();
    // They may have been saved already: what is sent next says that they are gone.
    if (place < at && place >= first)
      set({ timeline: timeline.slice(0, place + 1 - first), at: place, moved: true, gesture: null });
  },

  undo: () => {
    const { at, first } = get();
    if (at > first) set({ at: at - 1, moved: true, gesture: null });
  },

  redo: () => {
    const { at, first, timeline } = get();
    if (at < first + timeline.length - 1) set({ at: at + 1, moved: true, gesture: null });
  },

  takeUnsent: () => {
    const request = unsent(get());
    if (request) set({ unsentFrom: Number.POSITIVE_INFINITY, moved: false });
    return request;
  },

  putBack: (request) =>
    set({
      moved: true,
      unsentFrom:
        request.add.length > 0 ? Math.min(get().unsentFrom, request.keep_through + 1) : get().unsentFrom,
    }),

  saved: (revision) => set({ revision }),

  // Whichever version wins, the other one is one undo away.
  rebase: (theirs, mineWins) => {
    const mine = current(get());
    const shared = theirs.timeline.slice(0, theirs.at - theirs.first + 1);
    const their = shared.at(-1) ?? mine;
    const timeline = mineWins ? [...shared, mine] : [...shared, mine, their];
    set({
      ...adopted(theirs),
      timeline,
      at: theirs.first + timeline.length - 1,
      unsentFrom: theirs.first + shared.length,
    });
  },
}));

/** Which gesture made a document. */
const gestures = new WeakMap<Design, string>();

/** The gesture that made the document as it stands, since the design was opened. */
export const lastGesture = (): string | undefined => gestures.get(now());

function adopted({ revision, first, at, timeline }: DesignState) {
  return { revision, first, at, timeline, unsentFrom: Number.POSITIVE_INFINITY, moved: false, gesture: null };
}

/** The document as it stands. */
export function current(state: Pick<Timeline, "timeline" | "at" | "first">): Design {
  const found = state.timeline[state.at - state.first];
  if (!found) throw new Error("no design is open");
  return found;
}

/** The document as it stands now, for what is not drawn. */
export const now = (): Design => current(useTimeline.getState());

/** Calls at every change of the document, before anything is drawn of it; what ends that. */
export const whenChanged = (call: () => void): (() => void) =>
  useTimeline.subscribe((state, before) => {
    const same = state.timeline === before.timeline && state.at === before.at;
    if (state.timeline.length > 0 && !same) call();
  });

export const useDesign = (): Design => useTimeline(current);
/** A part of it: nothing is drawn again while that stays the same. */
export const usePart = <Part>(part: (design: Design) => Part): Part =>
  useTimeline((state) => part(current(state)));
/** The unit lengths are shown in. */
export const useUnit = (): Unit => usePart((design) => design.unit);

/** A change as part of a gesture, to be made with `commit`, or only tried. */
export const edits = (change: Change, gesture?: string): Edit => ({ change, gesture });

/** Make a change. */
export const edit = (change: Change, gesture?: string): void => useTimeline.getState().edit(change, gesture);
export const commit = ({ change, gesture }: Edit): void => edit(change, gesture);
export const holdGesture = (): void => useTimeline.getState().holdGesture();
export const takeBack = (place: number): void => useTimeline.getState().takeBack(place);
export const timelinePlace = (): number => useTimeline.getState().at;
export const endGesture = (): void => useTimeline.getState().endGesture();

/** What the server has not been told about, nor is being told. */
export function unsent(state: Timeline): SaveRequest | null {
  const { revision, first, at, timeline, unsentFrom, moved } = state;
  if (!moved && unsentFrom === Number.POSITIVE_INFINITY) return null;
  const keep = Math.min(first + timeline.length - 1, unsentFrom - 1);
  return { base_revision: revision, keep_through: keep, add: timeline.slice(keep + 1 - first), at };
}

/** Whether there is any of that. */
export const hasUnsent = (): boolean => unsent(useTimeline.getState()) !== null;
