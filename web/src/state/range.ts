// The number whose range is to be tried: set by its field, read by whoever can show what its values do.

import { create } from "zustand";
import type { Edit } from "./timeline";

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

export const useRange = create<{ range: RangeToTry | null }>()(() => ({ range: null }));
