// Numbers of the document: changing one is an edit, which can also be tried for a range of values without being made.

import type { ComponentProps } from "react";
import { useRange } from "../state/range";
import { commit, type Edit, endGesture } from "../state/timeline";
import { AreaField } from "../ui/AreaField";
import { NumberField } from "../ui/NumberField";

type Own = "onChange" | "onSettled" | "onTry";
type Editing = { edits: (value: number) => Edit };

/** A length in mm, or a plain number when `unit` is null. */
export function EditNumber({ edits, ...props }: Omit<ComponentProps<typeof NumberField>, Own> & Editing) {
  return (
    <NumberField
      {...props}
      onChange={(value) => commit(edits(value))}
      onSettled={endGesture}
      onTry={(limits) =>
        useRange.setState({
          range: { label: props.label, value: props.value, unit: props.unit !== null, ...limits, edits },
        })
      }
    />
  );
}

/** An area in mm². */
export function EditArea({ edits, ...props }: Omit<ComponentProps<typeof AreaField>, Own> & Editing) {
  return <AreaField {...props} onChange={(value) => commit(edits(value))} onSettled={endGesture} />;
}
