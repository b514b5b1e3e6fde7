// How each step reads. The record is typed by the union that the API's schema gives: a step without a phrase
// does not compile.

import type { ReactNode } from "react";
import type { NoteReply } from "../api/client";
import type { Corners, StepOf, StepOp } from "../document/types";
import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";
import { useBench, useUnit } from "./history";
import { ThickenPhrase } from "./ThickenPhrase";

export type PhraseProps<Op extends StepOp> = {
  step: StepOf<Op>;
  /** Shows the step's verb, with the menu that moves and removes it. */
  verb: (word: string) => ReactNode;
  onChange: (step: StepOf<Op>, gesture?: string) => void;
  /** What the step did, where the server tells. */
  note: NoteReply | null;
};

export type StepPhrase<Op extends StepOp> = {
  title: string;
  does: string;
  Picture: () => ReactNode;
  Phrase: (props: PhraseProps<Op>) => ReactNode;
};

const CORNERS: Record<Corners, string> = { round: "round", miter: "mitred", bevel: "bevelled" };

function OffsetPhrase({ step, verb, onChange }: PhraseProps<"offset">) {
  const unit = useUnit();
  return (
    <>
      {verb(step.by < 0 ? "shrunk" : "grown")}{" "}
      <NumberField
        inline
        unsigned
        label="Distance"
        value={step.by}
        unit={unit}
        min={-1000}
        max={1000}
        onChange={(by) => onChange({ ...step, by }, "by")}
        onSettled={useBench.getState().endGesture}
      />
      ,{" "}
      <Choice
        inline
        label="Corners"
        value={step.corners}
        onChange={(corners) => onChange({ ...step, corners })}
        groups={[
          { options: Object.entries(CORNERS).map(([value, text]) => ({ value: value as Corners, text })) },
        ]}
      />{" "}
      corners
      {step.corners === "miter" && (
        <>
          {" "}
          up to{" "}
          <NumberField
            inline
            label="Miter limit"
            value={step.miter_limit}
            unit={null}
            min={1}
            max={100}
            onChange={(miter_limit) => onChange({ ...step, miter_limit }, "limit")}
            onSettled={useBench.getState().endGesture}
          />{" "}
          times as long
        </>
      )}
    </>
  );
}

export const PHRASES: { [Op in StepOp]: StepPhrase<Op> } = {
  offset: {
    title: "Grow or shrink",
    does: "An offset: a border all round, or a thinner shape",
    Picture: () => (
      <Small>
        <path
          d="M5,16V9a7,7 0 0 1 14,0v7a3,3 0 0 1-3,3H8a3,3 0 0 1-3-3Z"
          className="fill-glow/30 stroke-halo"
        />
        <path d="M9,15V9a3,3 0 0 1 6,0v6Z" className="fill-soft" />
      </Small>
    ),
    Phrase: OffsetPhrase,
  },
  fill_holes: {
    title: "Fill holes",
    does: "Closes every hole, such as the inside of an o",
    Picture: () => (
      <Small>
        <circle cx="12" cy="12" r="8" className="fill-soft" />
        <circle cx="12" cy="12" r="3.5" className="fill-glow/60 stroke-halo" />
      </Small>
    ),
    Phrase: ({ verb }) => verb("holes filled"),
  },
  thicken: {
    title: "Thicken strokes",
    does: "Only where they are too thin, or all of them",
    Picture: () => (
      <Small>
        <path d="M4,17C8,5 12,5 12,12S16,19 20,7" className="fill-none stroke-glow/50" strokeWidth={6} />
        <path d="M4,17C8,5 12,5 12,12S16,19 20,7" className="fill-none stroke-soft" strokeWidth={2} />
      </Small>
    ),
    Phrase: ThickenPhrase,
  },
  union: {
    title: "Join with",
    does: "Adds another shape; what overlaps becomes one",
    Picture: () => (
      <Small>
        <path d="M3,8h9v-4h9v12h-9v4h-9Z" className="fill-glow/30 stroke-halo" />
      </Small>
    ),
    Phrase: ({ verb }) => verb("joined with"),
  },
  subtract: {
    title: "Cut away",
    does: "Takes another shape out of this one",
    Picture: () => (
      <Small>
        <path d="M3,6h18v12h-18Z" className="fill-soft" />
        <circle cx="15" cy="12" r="4.5" className="fill-sheet stroke-halo" />
      </Small>
    ),
    Phrase: ({ verb }) => verb("cut away"),
  },
  intersect: {
    title: "Keep only inside",
    does: "Keeps what lies inside another shape",
    Picture: () => (
      <Small>
        <circle cx="9" cy="12" r="6" className="fill-none stroke-soft" />
        <circle cx="15" cy="12" r="6" className="fill-none stroke-soft" />
        <path d="M12,6.8a6,6 0 0 1 0,10.4a6,6 0 0 1 0,-10.4Z" className="fill-glow/60 stroke-halo" />
      </Small>
    ),
    Phrase: ({ verb }) => verb("kept only inside"),
  },
};

export const STEP_OPS = Object.keys(PHRASES) as StepOp[];

function Small({ children }: { children: ReactNode }) {
  return (
    <svg viewBox="0 0 24 24" aria-hidden="true" className="size-8 shrink-0">
      {children}
    </svg>
  );
}
