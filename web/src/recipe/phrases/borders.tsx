// Borders: grown and shrunk, outside only, a line around, gaps closed, walls.

import type { Corners, StepOf } from "../../document/types";
import { LEAST_MM, limits } from "../../fields/limits";
import type { Edit } from "../../state/timeline";
import { counted, Degrees, Details, InPlaces, Length, type Phrase, Pick, Plain, Told } from "./parts";

const CORNERS: Record<Corners, string> = { round: "round", miter: "mitred", bevel: "bevelled" };

/** Corners that are not round, to be read without opening what is behind. */
const unusual = (corners: Corners) => (corners === "round" ? undefined : CORNERS[corners]);

export const OffsetPhrase: Phrase<"offset"> = ({ step, verb, edits }) => (
  <>
    {verb(step.by < 0 ? "shrunk" : "grown")}{" "}
    <Length
      unsigned
      label="Distance"
      value={step.by}
      {...limits("offset", "by")}
      edits={(by) => edits({ ...step, by }, "by")}
    />
    <Details what="More of the border" short={unusual(step.corners)}>
      <Pick
        label="Corners"
        value={step.corners}
        options={CORNERS}
        edits={(corners) => edits({ ...step, corners })}
      />{" "}
      corners
      {step.corners === "miter" && (
        <>
          {" "}
          up to{" "}
          <Plain
            label="Miter limit"
            value={step.miter_limit}
            {...limits("offset", "miter_limit")}
            edits={(miter_limit) => edits({ ...step, miter_limit }, "limit")}
          />{" "}
          times as long
        </>
      )}
    </Details>
  </>
);

export const OutlinePhrase: Phrase<"outline"> = ({ step, verb, edits }) => (
  <>
    {verb("as a line")}{" "}
    <Length
      label="Width of the line"
      value={step.width}
      {...limits("outline", "width")}
      edits={(width) => edits({ ...step, width }, "width")}
    />{" "}
    after a gap of{" "}
    <Length
      label="Gap"
      value={step.gap}
      {...limits("outline", "gap")}
      edits={(gap) => edits({ ...step, gap }, "gap")}
    />
    <Details what="More of the line" short={unusual(step.corners)}>
      <Pick
        label="Corners of the line"
        value={step.corners}
        options={CORNERS}
        edits={(corners) => edits({ ...step, corners })}
      />{" "}
      corners
    </Details>
  </>
);

export const CloseGapsPhrase: Phrase<"close_gaps"> = ({ step, verb, edits }) => (
  <>
    {verb("gaps closed")} to{" "}
    <Length
      label="Widest gap closed"
      value={step.up_to}
      {...limits("close_gaps", "up_to")}
      edits={(up_to) => edits({ ...step, up_to }, "up_to")}
    />
    <InPlaces step={step} edits={edits} />
  </>
);

export const OpenGapsPhrase: Phrase<"open_gaps"> = ({ step, verb, edits }) => (
  <>
    {verb("tight gaps widened")} to{" "}
    <Length
      label="Least width of gaps"
      value={step.to}
      {...limits("open_gaps", "to")}
      edits={(to) => edits({ ...step, to }, "to")}
    />
    <InPlaces step={step} edits={edits} />
  </>
);

type Joining = StepOf<"bridge"> | StepOf<"stencil">;

/** Which pieces are joined. Picked ones come from a finding; all of them can be had from here. */
function Joined<S extends Joining>(props: { step: S; all: string; edits: (step: S) => Edit }) {
  const { step, all, edits } = props;
  if (step.only === null) return all;
  const options = { picked: counted(step.only.length, "picked piece"), all };
  return (
    <Pick<keyof typeof options>
      label="Which pieces"
      value="picked"
      options={options}
      edits={(which) => which === "all" && edits({ ...step, only: null })}
    />
  );
}

function Left({ note }: { note: { pieces: number | null; missing: number } | null }) {
  return (
    <>
      {note?.pieces != null && note.pieces > 1 && <Told>leaves {counted(note.pieces, "piece")}</Told>}
      {note && note.missing > 0 && <Told alarm>{counted(note.missing, "picked piece")} gone</Told>}
    </>
  );
}

export const StencilPhrase: Phrase<"stencil"> = ({ step, note, verb, edits }) => (
  <>
    {verb("held in holes", ":")} <Joined step={step} all="all pieces" edits={edits} /> by{" "}
    <Plain
      label="Number of bars"
      value={step.count}
      {...limits("stencil", "count")}
      step={1}
      edits={(count) => edits({ ...step, count: Math.round(count) }, "count")}
    />{" "}
    bars each,{" "}
    <Length
      label="Width of the bars"
      value={step.width}
      {...limits("stencil", "width")}
      edits={(width) => edits({ ...step, width }, "width")}
    />{" "}
    wide, the first at{" "}
    <Degrees
      label="Direction of the bars"
      value={step.angle}
      edits={(angle) => edits({ ...step, angle }, "angle")}
    />
    <Left note={note} />
  </>
);

export const BridgePhrase: Phrase<"bridge"> = ({ step, note, verb, edits }) => (
  <>
    {verb("bridged", ":")} <Joined step={step} all="all loose pieces" edits={edits} />,{" "}
    <Length
      label="Width of the bridges"
      value={step.width}
      {...limits("bridge", "width")}
      edits={(width) => edits({ ...step, width }, "width")}
    />{" "}
    wide, over gaps up to{" "}
    <Length
      label="Widest gap bridged"
      value={step.up_to}
      {...limits("bridge", "up_to")}
      edits={(up_to) => edits({ ...step, up_to }, "up_to")}
    />
    <Left note={note} />
  </>
);

const SIDES = { inside: "inside", centred: "half on each side of", outside: "outside" };

export const WallPhrase: Phrase<"wall"> = ({ step, verb, edits }) => (
  <>
    {verb("as a wall")}{" "}
    <Length
      label="Thickness of the wall"
      value={step.width}
      {...limits("wall", "width")}
      edits={(width) => edits({ ...step, width }, "width")}
    />{" "}
    thick
    <Details what="More of the wall">
      <Pick
        label="Side of the wall"
        value={step.side}
        options={SIDES}
        edits={(side) => edits({ ...step, side })}
      />{" "}
      the edge
    </Details>
  </>
);

export const UnderlapPhrase: Phrase<"underlap"> = ({ step, verb, edits }) => (
  <>
    {verb("reaching")}{" "}
    <Length
      label="Reach under the edge"
      value={step.by}
      {...limits("underlap", "by")}
      edits={(by) => edits({ ...step, by }, "by")}
    />
    , over slits up to{" "}
    <Length
      label="Widest slit"
      value={step.within}
      {...limits("underlap", "within")}
      edits={(within) => edits({ ...step, within }, "within")}
    />
    , under
  </>
);

export const BleedPhrase: Phrase<"bleed"> = ({ step, verb, edits }) => (
  <>
    {verb("bled")}{" "}
    <Length label="Bleed" value={step.by} min={LEAST_MM} edits={(by) => edits({ ...step, by }, "by")} /> over
  </>
);
