// What phrases are made of: live numbers and choices inside a sentence.

import { type ReactNode, useState } from "react";
import type { NoteReply } from "../../api/client";
import type { Anchor, StepOf, StepOp } from "../../document/types";
import { EditArea, EditNumber } from "../../fields/EditNumber";
import { commit, type Edit, useUnit } from "../../state/timeline";
import { Choice } from "../../ui/Choice";

export type PhraseProps<Op extends StepOp> = {
  step: StepOf<Op>;
  /** Shows the step's verb, and what ends it, with the menu that moves, switches off and removes it. */
  verb: (word: string, after?: string) => ReactNode;
  /** The edit that puts a changed step in its place. */
  edits: (step: StepOf<Op>, gesture?: string) => Edit;
  /** What the step did, where the server tells. */
  note: NoteReply | null;
  /** The layer that the step belongs to, and its place there; null inside an operand. */
  at: { layer: string; step: number } | null;
};

export type Phrase<Op extends StepOp> = (props: PhraseProps<Op>) => ReactNode;

type LengthProps = {
  label: string;
  value: number;
  edits: (value: number) => Edit;
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
      <EditNumber
        inline
        unit={useUnit()}
        {...(props.above === undefined ? { min: 0 } : {})}
        max={1000}
        {...props}
      />
    </Tied>
  );
}

/** A number without a length's unit; `after` says what it counts. */
export function Plain({ after = "", ...props }: LengthProps) {
  return (
    <Tied after={after}>
      <EditNumber
        inline
        unit={null}
        max={1e6}
        {...(props.above === undefined ? { min: 0 } : {})}
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
      <EditArea inline unit={unit} {...props} />
    </Tied>
  );
}

type DegreesProps = { label: string; value: number; edits: (value: number) => Edit; after?: string };

export function Degrees({ after = "", ...props }: DegreesProps) {
  return <Plain {...props} min={-3600} max={3600} step={5} after={`°${after}`} />;
}

type PickProps<Value extends string> = {
  label: string;
  value: Value;
  options: Record<Value, string>;
  edits: (value: Value) => Edit | false;
  after?: string;
};

export function Pick<Value extends string>({ label, value, options, edits, after = "" }: PickProps<Value>) {
  const listed = Object.entries(options) as [Value, string][];
  return (
    <Tied after={after}>
      <Choice
        inline
        label={label}
        value={value}
        onChange={(next) => {
          const made = edits(next);
          if (made) commit(made);
        }}
        groups={[{ options: listed.map(([one, text]) => ({ value: one, text })) }]}
      />
    </Tied>
  );
}

type InPlacesProps<S> = { step: S; edits: (step: S) => Edit };

/** That a step keeps to some places, which come from findings; all of it can be had from here. */
export function InPlaces<S extends { only: Anchor[] | null }>({ step, edits }: InPlacesProps<S>) {
  if (step.only === null) return null;
  return (
    <>
      {", "}
      <Pick<"some" | "all">
        label="Where"
        value="some"
        options={{ some: `in ${counted(step.only.length, "place")}`, all: "everywhere" }}
        edits={(where) => where === "all" && edits({ ...step, only: null })}
      />
    </>
  );
}

/** What a step did, in small letters behind its phrase. */
export function Told({ children, alarm = false }: { children: ReactNode; alarm?: boolean }) {
  return <span className={`text-xs ${alarm ? "text-alarm" : "text-soft"}`}> ({children})</span>;
}

type DetailsProps = { what: string; short?: string | undefined; children: ReactNode };

/** The rest of a step, behind what matters first; `short` says what of it is unusual. It opens in its place. */
export function Details({ what, short, children }: DetailsProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-label={what}
        aria-expanded={open}
        title={what}
        className={`ml-1 inline-flex h-6 min-w-6 items-center justify-center rounded border border-line px-1 text-soft text-xs hover:border-halo hover:text-ink ${short ? "" : "in-[.folded]:hidden"}`}
        onClick={() => setOpen(!open)}
      >
        {open ? "less" : (short ?? "…")}
      </button>
      {open && <> {children}</>}
    </>
  );
}

export function counted(number: number, noun: string): string {
  return `${number} ${noun}${number === 1 ? "" : "s"}`;
}
