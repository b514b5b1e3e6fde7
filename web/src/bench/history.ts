// The bench's state: a timeline of documents, a place in it, and what is selected.
//
// An edit adds a document; edits of one gesture (a drag, a burst of typing) amend the last one, so that one undo
// takes the whole gesture back. `unsentFrom` is the earliest place the server has not been told about.

import { create } from "zustand";
import type { DesignState, SaveRequest } from "../api/client";
import type { Design, Unit } from "../document/types";

const KEPT = 200;
const GESTURE_PAUSE_MS = 900;

export type Saving = "saved" | "waiting" | "saving" | "offline" | "refused" | "stale";

type Bench = {
  id: string;
  revision: number;
  first: number;
  at: number;
  timeline: Design[];
  unsentFrom: number;
  moved: boolean;
  saving: Saving;
  /** Why the last save was refused. */
  refusal: string;
  selected: string | null;
  /** The block of words picked on the stage, and the letter of it. */
  picked: string | null;
  letter: number | null;
  /** Whether corners of the frame stretch freely instead of keeping proportions. */
  free: boolean;
  /** Whether a moved letter takes those that follow it on its line along. */
  following: boolean;
  /** Whether the lines that uniting removed are shown. */
  seams: boolean;
  /** A place to look at closely, in mm, and the width of what is there. */
  spot: { x: number; y: number; width: number } | null;
  /** The finding that is looked at. */
  finding: string | null;
  /** The step whose outlines before and after are shown. */
  stage: { layer: string; step: number } | null;
  /** The layer whose pieces and holes are being picked. */
  picking: string | null;
  /** The layer that is to get stepped copies. */
  stepping: string | null;
  /** The layer whose material is looked at. */
  limiting: string | null;
  gesture: { name: string; when: number } | null;

  open: (state: DesignState) => void;
  edit: (change: (design: Design) => Design, gesture?: string) => void;
  /** Another document in place of the last edit's, as long as that is the one that stands; whether it was. */
  amend: (made: Design, better: Design) => boolean;
  endGesture: () => void;
  undo: () => void;
  redo: () => void;
  select: (layer: string | null) => void;
  setSaving: (saving: Saving, refusal?: string) => void;
  takeUnsent: () => SaveRequest | null;
  putBack: (request: SaveRequest) => void;
  saved: (revision: number) => void;
  rebase: (theirs: DesignState, mineWins: boolean) => void;
};

export const useBench = create<Bench>()((set, get) => ({
  id: "",
  revision: 0,
  first: 0,
  at: 0,
  timeline: [],
  unsentFrom: Number.POSITIVE_INFINITY,
  moved: false,
  saving: "saved",
  refusal: "",
  selected: null,
  picked: null,
  letter: null,
  free: false,
  following: false,
  seams: false,
  spot: null,
  finding: null,
  stage: null,
  picking: null,
  stepping: null,
  limiting: null,
  gesture: null,

  open: (state) =>
    set({
      ...adopted(state),
      id: state.id,
      selected: null,
      picked: null,
      letter: null,
      spot: null,
      finding: null,
      stage: null,
      picking: null,
      stepping: null,
      limiting: null,
      refusal: "",
    }),

  edit: (change, gesture) => {
    const { timeline, at, first, unsentFrom, gesture: last } = get();
    const before = current(get());
    const after = change(before);
    if (after === before) return;
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

  endGesture: () => set({ gesture: null }),

  undo: () => {
    const { at, first } = get();
    if (at > first) set({ at: at - 1, moved: true, gesture: null });
  },

  redo: () => {
    const { at, first, timeline } = get();
    if (at < first + timeline.length - 1) set({ at: at + 1, moved: true, gesture: null });
  },

  select: (selected) => set({ selected }),
  setSaving: (saving, refusal = "") => set({ saving, refusal }),

  takeUnsent: () => {
    const { revision, first, at, timeline, unsentFrom, moved } = get();
    if (!moved && unsentFrom === Number.POSITIVE_INFINITY) return null;
    const last = first + timeline.length - 1;
    const keep = Math.min(last, unsentFrom - 1);
    // The gesture ends with the save: what was acknowledged is a step of its own from here on.
    set({ unsentFrom: Number.POSITIVE_INFINITY, moved: false });
    return { base_revision: revision, keep_through: keep, add: timeline.slice(keep + 1 - first), at };
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
      saving: "waiting",
    });
  },
}));

function adopted(state: DesignState) {
  return {
    revision: state.revision,
    first: state.first,
    at: state.at,
    timeline: state.timeline as Design[],
    unsentFrom: Number.POSITIVE_INFINITY,
    moved: false,
    saving: "saved" as const,
    gesture: null,
  };
}

/** The document as it stands. */
export function current(state: Pick<Bench, "timeline" | "at" | "first">): Design {
  const found = state.timeline[state.at - state.first];
  if (!found) throw new Error("no design is open");
  return found;
}

export const useDesign = (): Design => useBench(current);
/** A part of it: nothing is drawn again while that stays the same. */
export const usePart = <Part>(part: (design: Design) => Part): Part =>
  useBench((bench) => part(current(bench)));
/** The unit lengths are shown in. */
export const useUnit = (): Unit => usePart((design) => design.unit);
let watched: ((change: (design: Design) => Design) => void) | null = null;

export const edit: Bench["edit"] = (change, gesture) =>
  watched ? watched(change) : useBench.getState().edit(change, gesture);

/** The document as it would be after an edit that is not made. */
export function variant(makeEdit: () => void): Design {
  let design = current(useBench.getState());
  watched = (change) => {
    design = change(design);
  };
  try {
    makeEdit();
  } finally {
    watched = null;
  }
  return design;
}
export const hasUnsent = (): boolean => {
  const { moved, unsentFrom, saving } = useBench.getState();
  return moved || unsentFrom !== Number.POSITIVE_INFINITY || saving === "saving";
};
