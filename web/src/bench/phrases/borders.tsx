// Borders: grown and shrunk, outside only, a line around, gaps closed, walls.

import type { Corners, StepOf } from "../../document/types";
import { counted, Degrees, Length, type Phrase, Pick, Plain, Told } from "./parts";

const CORNERS: Record<Corners, string> = { round: "round", miter: "mitred", bevel: "bevelled" };

export const OffsetPhrase: Phrase<"offset"> = ({ step, verb, onChange }) => (
  <>
    {verb(step.by < 0 ? "shrunk" : "grown")}{" "}
    <Length
      unsigned
      label="Distance"
      value={step.by}
      min={-1000}
      after=","
      onChange={(by) => onChange({ ...step, by }, "by")}
    />{" "}
    <Pick
      label="Corners"
      value={step.corners}
      options={CORNERS}
      onChange={(corners) => onChange({ ...step, corners })}
    />{" "}
    corners
    {step.corners === "miter" && (
      <>
        {" "}
        up to{" "}
        <Plain
          label="Miter limit"
          value={step.miter_limit}
          min={1}
          max={100}
          onChange={(miter_limit) => onChange({ ...step, miter_limit }, "limit")}
        />{" "}
        times as long
      </>
    )}
  </>
);

export const OutsidePhrase: Phrase<"outside"> = ({ verb }) => <>{verb("outer edge only", ",")} filled</>;

export const OutlinePhrase: Phrase<"outline"> = ({ step, verb, onChange }) => (
  <>
    {verb("as a line around", ",")}{" "}
    <Length
      label="Width of the line"
      value={step.width}
      above={0}
      onChange={(width) => onChange({ ...step, width }, "width")}
    />{" "}
    wide after a gap of{" "}
    <Length
      label="Gap"
      value={step.gap}
      min={-1000}
      after=","
      onChange={(gap) => onChange({ ...step, gap }, "gap")}
    />{" "}
    <Pick
      label="Corners of the line"
      value={step.corners}
      options={CORNERS}
      onChange={(corners) => onChange({ ...step, corners })}
    />{" "}
    corners
  </>
);

export const CloseGapsPhrase: Phrase<"close_gaps"> = ({ step, verb, onChange }) => (
  <>
    {verb("gaps closed")} up to{" "}
    <Length
      label="Widest gap closed"
      value={step.up_to}
      above={0}
      onChange={(up_to) => onChange({ ...step, up_to }, "up_to")}
    />{" "}
    wide
  </>
);

export const OpenGapsPhrase: Phrase<"open_gaps"> = ({ step, verb, onChange }) => (
  <>
    {verb("tight gaps widened")} to{" "}
    <Length
      label="Least width of gaps"
      value={step.to}
      above={0}
      max={100}
      onChange={(to) => onChange({ ...step, to }, "to")}
    />
  </>
);

type Joining = StepOf<"bridge"> | StepOf<"stencil">;

/** Which pieces are joined. Picked ones come from a finding; all of them can be had from here. */
function Joined<S extends Joining>(props: { step: S; all: string; onChange: (step: S) => void }) {
  const { step, all, onChange } = props;
  if (step.only === null) return all;
  const options = { picked: counted(step.only.length, "picked piece"), all };
  return (
    <Pick<keyof typeof options>
      label="Which pieces"
      value="picked"
      options={options}
      onChange={(which) => which === "all" && onChange({ ...step, only: null })}
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

export const StencilPhrase: Phrase<"stencil"> = ({ step, note, verb, onChange }) => (
  <>
    {verb("held in holes", ":")} <Joined step={step} all="all pieces" onChange={onChange} /> by{" "}
    <Plain
      label="Number of bars"
      value={step.count}
      min={1}
      max={24}
      step={1}
      onChange={(count) => onChange({ ...step, count: Math.round(count) }, "count")}
    />{" "}
    bars each,{" "}
    <Length
      label="Width of the bars"
      value={step.width}
      above={0}
      onChange={(width) => onChange({ ...step, width }, "width")}
    />{" "}
    wide, the first at{" "}
    <Degrees
      label="Direction of the bars"
      value={step.angle}
      onChange={(angle) => onChange({ ...step, angle }, "angle")}
    />
    <Left note={note} />
  </>
);

export const BridgePhrase: Phrase<"bridge"> = ({ step, note, verb, onChange }) => (
  <>
    {verb("bridged", ":")} <Joined step={step} all="all loose pieces" onChange={onChange} />,{" "}
    <Length
      label="Width of the bridges"
      value={step.width}
      above={0}
      onChange={(width) => onChange({ ...step, width }, "width")}
    />{" "}
    wide, over gaps up to{" "}
    <Length
      label="Widest gap bridged"
      value={step.up_to}
      above={0}
      onChange={(up_to) => onChange({ ...step, up_to }, "up_to")}
    />
    <Left note={note} />
  </>
);

const SIDES = { inside: "inside", centred: "half on each side of", outside: "outside" };

export const WallPhrase: Phrase<"wall"> = ({ step, verb, onChange }) => (
  <>
    {verb("as a wall")}{" "}
    <Length
      label="Thickness of the wall"
      value={step.width}
      above={0}
      onChange={(width) => onChange({ ...step, width }, "width")}
    />{" "}
    thick{" "}
    <Pick
      label="Side of the wall"
      value={step.side}
      options={SIDES}
      onChange={(side) => onChange({ ...step, side })}
    />{" "}
    the edge
  </>
);

export const UnderlapPhrase: Phrase<"underlap"> = ({ step, verb, onChange }) => (
  <>
    {verb("reaching")}{" "}
    <Length
      label="Reach under the edge"
      value={step.by}
      above={0}
      onChange={(by) => onChange({ ...step, by }, "by")}
    />
    , over slits up to{" "}
    <Length
      label="Widest slit"
      value={step.within}
      above={0}
      onChange={(within) => onChange({ ...step, within }, "within")}
    />
    , under
  </>
);

export const BleedPhrase: Phrase<"bleed"> = ({ step, verb, onChange }) => (
  <>
    {verb("bled")}{" "}
    <Length label="Bleed" value={step.by} above={0} onChange={(by) => onChange({ ...step, by }, "by")} /> over
  </>
);
