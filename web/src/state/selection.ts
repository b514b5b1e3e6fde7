// What is selected, picked and looked at on the bench: beside the document, and never saved.

import { create } from "zustand";

type Selection = {
  /** The layer that is worked on. */
  layer: string | null;
  /** The layer that was worked on last: its card stays open. */
  opened: string | null;
  /** The piece of art that is worked on: the one picked, or the last one opened. */
  art: string | null;
  /** The piece of art picked on the stage, and the letters of it. */
  picked: string | null;
  /** Art that is picked with it: all of that is moved and copied together. */
  also: string[];
  /** The words that are typed into on the stage. */
  typing: string | null;
  letters: number[];
  /** The outline whose nodes are shown, and those of them that are taken. */
  nodal: string | null;
  nodes: number[];
  /** Whether corners of the frame stretch freely instead of keeping proportions. */
  free: boolean;
  /** Whether a moved letter takes those that follow it on its line along. */
  following: boolean;
  /** Whether the design is shown as it was before. */
  comparing: boolean;
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
};

const NOTHING = {
  layer: null,
  opened: null,
  art: null,
  picked: null,
  also: [] as string[],
  typing: null,
  letters: [] as number[],
  nodal: null as string | null,
  nodes: [] as number[],
  spot: null,
  finding: null,
  stage: null,
  picking: null,
  stepping: null,
  limiting: null,
  comparing: false,
};

export const useSelection = create<Selection>()(() => ({
  ...NOTHING,
  free: false,
  following: false,
  seams: false,
}));

export const select = (change: Partial<Selection>): void =>
  useSelection.setState({
    // What is picked anew is picked alone.
    ...("picked" in change ? { also: [], typing: null, letters: [], nodal: null, nodes: [] } : {}),
    ...(change.picked ? { art: change.picked } : {}),
    ...change,
  });

/** Pick a piece of art with those that are picked already, or no longer. */
export function pickAlso(id: string): void {
  const { picked, also } = useSelection.getState();
  if (picked === null) select({ picked: id });
  else if (picked === id) select({ picked: also[0] ?? null, also: also.slice(1) });
  else select({ picked, also: also.includes(id) ? also.filter((one) => one !== id) : [...also, id] });
}

/** Pick a letter of the words that are picked, with others or alone; picked already, it is let go. */
export function pickLetter(letter: number, also: boolean): void {
  const { letters } = useSelection.getState();
  const rest = letters.filter((one) => one !== letter);
  if (also) select({ letters: rest.length < letters.length ? rest : [...letters, letter] });
  else select({ letters: letters.length === 1 && rest.length === 0 ? [] : [letter] });
}

/** All art that is picked. */
export function allPicked({ picked, also } = useSelection.getState()): string[] {
  return picked === null ? [] : [picked, ...also];
}

/** Nothing is selected any more; how things are shown stays. */
export const clearSelection = (): void => useSelection.setState(NOTHING);

/** The layer that is worked on. */
export const selectLayer = (layer: string | null): void =>
  useSelection.setState(layer === null ? { layer } : { layer, opened: layer });
