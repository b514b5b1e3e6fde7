// A field for an area: in mm², shown and typed in the design's unit squared.

import type { ComponentProps } from "react";
import type { Unit } from "../document/types";
import { NumberField } from "./NumberField";

type Props = Omit<ComponentProps<typeof NumberField>, "unit" | "step" | "decimals" | "min"> & { unit: Unit };

export function AreaField({ unit, value, above = 0, max = 1e6, onChange, ...props }: Props) {
  const one = unit === "in" ? 25.4 ** 2 : 1;
  return (
    <NumberField
      {...props}
      unit={null}
      value={value / one}
      above={above / one}
      max={max / one}
      {...(unit === "in" ? { step: 0.001, decimals: 4 } : {})}
      onChange={(area) => onChange(area * one)}
    />
  );
}
