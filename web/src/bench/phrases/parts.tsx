// What phrases are made of: live numbers and choices inside a sentence.

import type { ReactNode } from "react";
import type { NoteReply } from "../../api/client";
import type { StepOf, StepOp } from "../../document/types";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { useBench, useUnit } from "../history";

export type PhraseProps<Op extends StepOp> = {
  step: StepOf<Op>;
  /** Shows the step's verb, with the menu that moves, switches off and removes it. */
  verb: (word: string) => ReactNode;
  onChange: (step: StepOf<Op>, gesture?: string) => void;
  /** What the step did, where the server tells. */
  note: NoteReply | null;
  /** The layer that the step belongs to, and its place there; null inside an operand. */
  at: { layer: string; step: number } | null;
};

export type Phrase<Op extends StepOp> = (props: PhraseProps<Op>) => ReactNode;

type LengthProps = {
  label: string;
  value: number;
  onChange: (value: number) => void;
  min?: number;
  above?: number;
  max?: number;
  step?: number;
  unsigned?: boolean;
};

/** A length in the design's unit. */
export function Length(props: LengthProps) {
  return (
    <NumberField
      inline
      unit={useUnit()}
      {...(props.above === undefined ? { min: 0 } : {})}
      max={1000}
      onSettled={useBench.getState().endGesture}
      {...props}
    />
  );
}

/** A number without a length's unit; `after` says what it counts. */
export function Plain({ after = "", ...props }: LengthProps & { after?: string }) {
  return (
    <span className="whitespace-nowrap">
      <NumberField
        inline
        unit={null}
        max={1e6}
        {...(props.above === undefined ? { min: 0 } : {})}
        onSettled={useBench.getState().endGesture}
        {...props}
      />
      {after}
    </span>
  );
}

export function Degrees(props: { label: string; value: number; onChange: (value: number) => void }) {
  return <Plain {...props} min={-3600} max={3600} step={5} after="°" />;
}

type PickProps<Value extends string> = {
  label: string;
  value: Value;
  options: Record<Value, string>;
  onChange: (value: Value) => void;
};

export function Pick<Value extends string>({ label, value, options, onChange }: PickProps<Value>) {
  const listed = Object.entries(options) as [Value, string][];
  return (
    <Choice
      inline
      label={label}
      value={value}
      onChange={onChange}
      groups={[{ options: listed.map(([one, text]) => ({ value: one, text })) }]}
    />
  );
}

/** What a step did, in small letters behind its phrase. */
export function Told({ children, alarm = false }: { children: ReactNode; alarm?: boolean }) {
  return <span className={`text-xs ${alarm ? "text-alarm" : "text-soft"}`}> ({children})</span>;
}

export function counted(number: number, noun: string): string {
  return `${number} ${noun}${number === 1 ? "" : "s"}`;
}
