// Stitches, and pieces that are tidied away, kept or dropped.

import { artName } from "../../document/names";
import type { StepOf } from "../../document/types";
import { limits } from "../../fields/limits";
import { usePart } from "../../state/timeline";
import { Area, counted, Degrees, Details, Length, type Phrase, Pick, Plain, Told } from "./parts";

export const StitchPhrase: Phrase<"stitch"> = ({ step, verb, edits }) => {
  const motifs = useMotifs();
  return (
    <>
      {verb("stitched")}{" "}
      <Length
        label="Stitches inside the edge"
        value={step.inset}
        {...limits("stitch", "inset")}
        edits={(inset) => edits({ ...step, inset }, "inset")}
      />{" "}
      inside the edge,{" "}
      {step.motif === null && (
        <>
          <Length
            label="Length of a stitch"
            value={step.length}
            {...limits("stitch", "length")}
            edits={(length) => edits({ ...step, length }, "length")}
          />{" "}
          long,{" "}
        </>
      )}
      {step.count === null ? (
        <>
          <Length
            label="Between stitches"
            value={step.spacing}
            edits={(spacing) => edits({ ...step, spacing }, "spacing")}
          />{" "}
          apart
        </>
      ) : (
        <>
          <Plain
            label="Stitches along each edge"
            value={step.count}
            {...limits("stitch", "count")}
            step={1}
            edits={(count) => edits({ ...step, count: Math.round(count) }, "count")}
          />{" "}
          along each edge
        </>
      )}
      <Details what="More of the stitches">
        <Pick
          label="Which edges are stitched"
          value={step.outer_only ? "outer" : "all"}
          options={{ all: "along every edge", outer: "along the outer edge" }}
          after=","
          edits={(edges) => edits({ ...step, outer_only: edges === "outer" })}
        />{" "}
        <Pick
          label="Kind of stitch"
          value={kindOf(step)}
          options={{
            open: "open strokes",
            slot: "slim marks",
            vee: "strokes in Vs",
            vees: "slim marks in Vs",
            ...motifs,
          }}
          edits={(kind) => edits(ofKind(step, kind))}
        />
        {step.width !== null && (
          <>
            {" "}
            <Length
              label="Width of a mark"
              value={step.width}
              {...limits("stitch", "width")}
              step={0.05}
              edits={(width) => edits({ ...step, width }, "width")}
            />{" "}
            wide
          </>
        )}
        , spaced{" "}
        <Pick
          label="How stitches are spaced"
          value={step.count === null ? "apart" : "count"}
          options={{ apart: "by a distance", count: "by their number" }}
          after=","
          edits={(how) => edits({ ...step, count: how === "count" ? 40 : null })}
        />{" "}
        slanted{" "}
        <Degrees label="Slant" value={step.slant} edits={(slant) => edits({ ...step, slant }, "slant")} />
      </Details>
    </>
  );
};

type StitchStep = StepOf<"stitch">;

/** What stitches look like: strokes or marks, alone or in Vs, or the art of that id. */
const kindOf = ({ width, pairs, motif }: StitchStep): string =>
  motif?.from[0] ?? (width === null ? (pairs ? "vee" : "open") : pairs ? "vees" : "slot");

function ofKind(step: StitchStep, kind: string): StitchStep {
  const made = { ...step, motif: null, pairs: kind === "vee" || kind === "vees" };
  const slant = made.pairs && step.slant === 0 ? 60 : step.slant;
  switch (kind) {
    case "open":
    case "vee":
      return { ...made, slant, width: null };
    case "slot":
    case "vees":
      return { ...made, slant, width: step.width ?? 0.4 };
    default:
      return { ...made, motif: { from: [kind], steps: [] } };
  }
}

/** All art, by what it is called. */
const useMotifs = (): Record<string, string> =>
  Object.fromEntries(usePart((design) => design.art).map((art) => [art.id, artName(art)]));

type By = "area" | "width" | "both";

const BY: Record<By, string> = {
  area: "the small",
  width: "the narrow",
  both: "the small and the narrow",
};

export const TidyPhrase: Phrase<"tidy"> = ({ step, verb, edits, note }) => {
  const by: By = step.area === null ? "width" : step.width === null ? "area" : "both";
  const choose = (next: By) =>
    edits({
      ...step,
      area: next === "width" ? null : (step.area ?? 4),
      width: next === "area" ? null : (step.width ?? 1),
    });
  return (
    <>
      {verb("tidied")} under{" "}
      {step.area !== null && (
        <Area label="Least area" value={step.area} edits={(area) => edits({ ...step, area }, "area")} />
      )}
      {by === "both" && " or "}
      {step.width !== null && (
        <Length
          label="Least width"
          value={step.width}
          {...limits("tidy", "width")}
          edits={(width) => edits({ ...step, width }, "width")}
        />
      )}
      <Details what="More of the tidying">
        <Pick label="Which pieces" value={by} options={BY} after="," edits={choose} />{" "}
        <Pick
          label="Holes too"
          value={step.holes_too ? "yes" : "no"}
          options={{ no: "holes left alone", yes: "holes as small filled" }}
          edits={(holes) => edits({ ...step, holes_too: holes === "yes" })}
        />
      </Details>
      {note && note.dropped + note.filled > 0 && (
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
