// The number whose range is tried: set by its field, read by the sheet of all values and by the bar over the stage.

import { create } from "zustand";
import type { Variant } from "../document/range";
import type { Design } from "../document/types";
import { commit, type Edit, edits, now, useTimeline } from "./timeline";

export type RangeToTry = {
  label: string;
  value: number;
  /** Whether it is a length in mm. */
  unit: boolean;
  min: number;
  max: number;
  /** The edit that sets it. */
  edits: (value: number) => Edit;
};

/** Variants that are compared on the stage, one at a time. */
export type Compared = { label: string; before: Design; variants: Variant[] };

export const useRange = create<{ range: RangeToTry | null; compared: Compared | null }>()(() => ({
  range: null,
  compared: null,
}));

/** Put a variant on the stage. However many are looked at, one undo goes back to what was there before. */
export function showVariant({ before }: Compared, design: Design): void {
  const shown = now();
  if (shown === design) return;
  if (design === before) useTimeline.getState().undo();
  else if (shown === before || !useTimeline.getState().amend(shown, design)) commit(edits(() => design));
}
