// The ranges of numbers as the model has them, in the words of number fields.

import { type Range, STEPS } from "../api/facts";
import type { StepOp } from "../document/types";

/** Nothing shorter than this is made, in mm. */
export const LEAST_MM = 0.01;

type Limits = { min?: number; above?: number; max?: number };

/** Of a step's field. */
export function limits(op: StepOp, field: string): Limits {
  return limitsOf(STEPS[op].ranges[field]);
}

export function limitsOf(range: Range | undefined): Limits {
  const { min, above, max } = range ?? {};
  return {
    ...(min === undefined ? {} : { min }),
    ...(above === undefined ? {} : { above }),
    ...(max === undefined ? {} : { max }),
  };
}
