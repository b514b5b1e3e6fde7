// The number whose range is to be tried: set by a number field, read by whoever can show what its values do.

import { create } from "zustand";

export type RangeToTry = {
  label: string;
  value: number;
  /** Whether it is a length in mm. */
  unit: boolean;
  min: number;
  max: number;
  onChange: (value: number) => void;
};

export const useRange = create<{ range: RangeToTry | null }>()(() => ({ range: null }));
