// Stitches, and pieces that are tidied away, kept or dropped.

import type { StepOf } from "../../document/types";
import { Area, counted, Degrees, Length, type Phrase, Pick, Told } from "./parts";

export const StitchPhrase: Phrase<"stitch"> = ({ step, verb, onChange }) => (
  <>
    {verb("stitched")}{" "}
    <Pick
      label="Which edges are stitched"
      value={step.outer_only ? "outer" : "all"}
      options={{ all: "along every edge", outer: "along the outer edge" }}
      after=","
      onChange={(edges) => onChange({ ...step, outer_only: edges === "outer" })}
    />{" "}
    <Length
      label="Stitches inside the edge"
      value={step.inset}
      min={-1000}
      onChange={(inset) => onChange({ ...step, inset }, "inset")}
    />{" "}
    inside it:{" "}
    <Pick
      label="Kind of stitch"
      value={step.width === null ? "open" : "slot"}
      options={{ open: "open strokes", slot: "slim marks" }}
      onChange={(kind) => onChange({ ...step, width: kind === "slot" ? 0.4 : null })}
    />{" "}
    {step.width !== null && (
      <Length
        label="Width of a mark"
        value={step.width}
        above={0}
        max={100}
        step={0.05}
        onChange={(width) => onChange({ ...step, width }, "width")}
      />
    )}{" "}
    of{" "}
    <Length
      label="Length of a stitch"
      value={step.length}
      above={0}
      onChange={(length) => onChange({ ...step, length }, "length")}
    />
    , about{" "}
    <Length
      label="Between stitches"
      value={step.spacing}
      onChange={(spacing) => onChange({ ...step, spacing }, "spacing")}
    />{" "}
    apart, slanted{" "}
    <Degrees label="Slant" value={step.slant} onChange={(slant) => onChange({ ...step, slant }, "slant")} />
  </>
);

type By = "area" | "width" | "both";

const BY: Record<By, string> = {
  area: "too small",
  width: "too narrow",
  both: "too small or narrow",
};

export const TidyPhrase: Phrase<"tidy"> = ({ step, verb, onChange, note }) => {
  const by: By = step.area === null ? "width" : step.width === null ? "area" : "both";
  const choose = (next: By) =>
    onChange({
      ...step,
      area: next === "width" ? null : (step.area ?? 4),
      width: next === "area" ? null : (step.width ?? 1),
    });
  return (
    <>
      {verb("tidied")} of pieces{" "}
      <Pick label="Which pieces" value={by} options={BY} after=":" onChange={choose} /> under{" "}
      {step.area !== null && (
        <Area
          label="Least area"
          value={step.area}
          after={by === "both" ? "" : ","}
          onChange={(area) => onChange({ ...step, area }, "area")}
        />
      )}{" "}
      {by === "both" && "or "}
      {step.width !== null && (
        <Length
          label="Least width"
          value={step.width}
          above={0}
          after=","
          onChange={(width) => onChange({ ...step, width }, "width")}
        />
      )}{" "}
      <Pick
        label="Holes too"
        value={step.holes_too ? "yes" : "no"}
        options={{ no: "holes left alone", yes: "holes as small filled" }}
        onChange={(holes) => onChange({ ...step, holes_too: holes === "yes" })}
      />
      {note && (
        <Told>
          {counted(note.dropped, "piece")} dropped
          {step.holes_too && `, ${counted(note.filled, "hole")} filled`}
        </Told>
      )}
    </>
  );
};

function Picked(props: { step: StepOf<"keep"> | StepOf<"drop">; dropped: number | null; missing: number }) {
  const { step, dropped, missing } = props;
  return (
    <>
      {counted(step.pieces.length, "picked piece")}
      {dropped !== null && <Told>{counted(dropped, "piece")} dropped</Told>}
      {missing > 0 && <Told alarm>{counted(missing, "picked piece")} gone</Told>}
    </>
  );
}

export const KeepPhrase: Phrase<"keep"> = ({ step, verb, note }) => (
  <>
    {verb("only")} <Picked step={step} dropped={note?.dropped ?? null} missing={note?.missing ?? 0} />
  </>
);

export const DropPhrase: Phrase<"drop"> = ({ step, verb, note }) => (
  <>
    {verb("without")} <Picked step={step} dropped={null} missing={note?.missing ?? 0} />
  </>
);
