// What phrases are made of: live numbers and choices inside a sentence.

import type { ReactNode } from "react";
import type { NoteReply } from "../../api/client";
import type { StepOf, StepOp } from "../../document/types";
import { AreaField } from "../../ui/AreaField";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { useBench, useUnit } from "../history";

export type PhraseProps<Op extends StepOp> = {
  step: StepOf<Op>;
  /** Shows the step's verb, and what ends it, with the menu that moves, switches off and removes it. */
  verb: (word: string, after?: string) => ReactNode;
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
  after?: string;
};

/** A field with what follows it: a line would break between them, before a comma, too. */
function Tied({ after, children }: { after: string; children: ReactNode }) {
  return (
    <span className={after && "whitespace-nowrap"}>
      {children}
      {after}
    </span>
  );
}

/** A length in the design's unit. */
export function Length({ after = "", ...props }: LengthProps) {
  return (
    <Tied after={after}>
      <NumberField
        inline
        unit={useUnit()}
        {...(props.above === undefined ? { min: 0 } : {})}
        max={1000}
        onSettled={useBench.getState().endGesture}
        {...props}
      />
    </Tied>
  );
}

/** A number without a length's unit; `after` says what it counts. */
export function Plain({ after = "", ...props }: LengthProps) {
  return (
    <Tied after={after}>
      <NumberField
        inline
        unit={null}
        max={1e6}
        {...(props.above === undefined ? { min: 0 } : {})}
        onSettled={useBench.getState().endGesture}
        {...props}
      />
    </Tied>
  );
}

/** An area in the design's unit. */
export function Area({ after = "", ...props }: Omit<LengthProps, "min" | "above" | "step" | "unsigned">) {
  const unit = useUnit();
  return (
    <Tied after={` ${unit}²${after}`}>
      <AreaField inline unit={unit} onSettled={useBench.getState().endGesture} {...props} />
    </Tied>
  );
}

type DegreesProps = { label: string; value: number; onChange: (value: number) => void; after?: string };

export function Degrees({ after = "", ...props }: DegreesProps) {
  return <Plain {...props} min={-3600} max={3600} step={5} after={`°${after}`} />;
}

type PickProps<Value extends string> = {
  label: string;
  value: Value;
  options: Record<Value, string>;
  onChange: (value: Value) => void;
  after?: string;
};

export function Pick<Value extends string>({
  label,
  value,
  options,
  onChange,
  after = "",
}: PickProps<Value>) {
  const listed = Object.entries(options) as [Value, string][];
  return (
    <Tied after={after}>
      <Choice
        inline
        label={label}
        value={value}
        onChange={onChange}
        groups={[{ options: listed.map(([one, text]) => ({ value: one, text })) }]}
      />
    </Tied>
  );
}

/** What a step did, in small letters behind its phrase. */
export function Told({ children, alarm = false }: { children: ReactNode; alarm?: boolean }) {
  return <span className={`text-xs ${alarm ? "text-alarm" : "text-soft"}`}> ({children})</span>;
}

export function counted(number: number, noun: string): string {
  return `${number} ${noun}${number === 1 ? "" : "s"}`;
}
