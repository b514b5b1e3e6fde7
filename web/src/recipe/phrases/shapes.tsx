// Shapes and places: rounded corners, moves, shadows, plates.

import { useState } from "react";
import { LEAST_MM, limits } from "../../fields/limits";
import type { Edit } from "../../state/timeline";
import { Degrees, Details, InPlaces, Length, type Phrase, Pick, Plain } from "./parts";

export const RoundOffPhrase: Phrase<"round_off"> = ({ step, verb, edits }) => (
  <>
    {verb("corners rounded")}{" "}
    <Length
      label="Radius of outer corners"
      value={step.outer}
      edits={(outer) => edits({ ...step, outer }, "outer")}
    />
    , inner ones{" "}
    <Length
      label="Radius of inner corners"
      value={step.inner}
      edits={(inner) => edits({ ...step, inner }, "inner")}
    />
    <InPlaces step={step} edits={edits} />
  </>
);

const ABOUT = { itself: "its own middle", middle: "the middle of all", design: "the drawing's zero" };

export const PlacePhrase: Phrase<"place"> = ({ step, verb, edits }) => (
  <>
    {verb("moved")}{" "}
    <Length
      label="Moved across"
      value={step.dx}
      {...limits("place", "dx")}
      edits={(dx) => edits({ ...step, dx }, "dx")}
    />{" "}
    across and{" "}
    <Length
      label="Moved up"
      value={step.dy}
      {...limits("place", "dy")}
      edits={(dy) => edits({ ...step, dy }, "dy")}
    />{" "}
    up, turned{" "}
    <Degrees label="Turned" value={step.turn} after="," edits={(turn) => edits({ ...step, turn }, "turn")} />{" "}
    stretched{" "}
    <Plain
      label="Stretched across"
      value={step.scale_x}
      {...limits("place", "scale_x")}
      step={0.05}
      edits={(scale_x) => edits({ ...step, scale_x }, "scale_x")}
    />{" "}
    ×{" "}
    <Plain
      label="Stretched up"
      value={step.scale_y}
      {...limits("place", "scale_y")}
      step={0.05}
      after=","
      edits={(scale_y) => edits({ ...step, scale_y }, "scale_y")}
    />{" "}
    <Pick
      label="Mirrored"
      value={step.mirror ? "yes" : "no"}
      options={{ no: "not mirrored", yes: "mirrored" }}
      edits={(mirror) => edits({ ...step, mirror: mirror === "yes" })}
    />
    , about{" "}
    <Pick
      label="Turned about"
      value={step.about ?? (step.mirror ? "middle" : "itself")}
      options={ABOUT}
      edits={(about) => edits({ ...step, about })}
    />
  </>
);

type Way = { dx: number; dy: number };

/** A way on the drawing as a length and a direction. */
function WayFields({ way, edits }: { way: Way; edits: WayEdits }) {
  const size = Math.hypot(way.dx, way.dy);
  // Typed anew, a length may pass through 0, which has no direction: it keeps the last one.
  const now = size > 0 ? ((Math.atan2(way.dy, way.dx) * 180) / Math.PI + 360) % 360 : null;
  const [kept, setKept] = useState(0);
  if (now !== null && now !== kept) setKept(now);
  const angle = now ?? kept;
  // Lengths are kept to a tenth of a micrometre: what was typed reads back as it was.
  const tidy = (value: number) => Math.round(value * 1e4) / 1e4;
  const set = (length: number, degrees: number, gesture: string) => {
    const turn = (degrees * Math.PI) / 180;
    return edits({ dx: tidy(length * Math.cos(turn)), dy: tidy(length * Math.sin(turn)) }, gesture);
  };
  return (
    <>
      <Length label="Shadow length" value={size} edits={(length) => set(length, angle, "way")} /> at{" "}
      <Degrees label="Shadow direction" value={angle} edits={(degrees) => set(size, degrees, "way")} />
    </>
  );
}

type WayEdits = (way: Way, gesture: string) => Edit;

/** The same as how far it goes along either direction. */
function AlongFields({ way, edits }: { way: Way; edits: WayEdits }) {
  const { dx, dy } = way;
  return (
    <>
      <Length
        label="Shadow across"
        value={dx}
        min={-1000}
        unsigned
        edits={(dx) => edits({ ...way, dx }, "dx")}
      />{" "}
      to the {dx < 0 ? "left" : "right"},{" "}
      <Length label="Shadow up" value={dy} min={-1000} unsigned edits={(dy) => edits({ ...way, dy }, "dy")} />{" "}
      {dy < 0 ? "down" : "up"}
    </>
  );
}

export const DropShadowPhrase: Phrase<"drop_shadow"> = ({ step, verb, edits }) => {
  const way = { way: step, edits: (way: Way, gesture: string) => edits({ ...step, ...way }, gesture) };
  return (
    <>
      {verb("as a shadow")} <WayFields {...way} />,{" "}
      <Pick
        label="Whole shadow or what is seen"
        value={step.visible_only ? "seen" : "whole"}
        options={{ whole: "all of it", seen: "what is seen" }}
        edits={(kind) => edits({ ...step, visible_only: kind === "seen" })}
      />
      <Details what="More of the shadow">
        <AlongFields {...way} />
        {step.visible_only && (
          <>
            {", "}
            <Length
              label="Underlap"
              value={step.underlap}
              step={0.05}
              edits={(underlap) => edits({ ...step, underlap }, "underlap")}
            />{" "}
            under the letters
          </>
        )}
      </Details>
    </>
  );
};

export const BlockShadowPhrase: Phrase<"block_shadow"> = ({ step, verb, edits }) => {
  const way = { way: step, edits: (way: Way, gesture: string) => edits({ ...step, ...way }, gesture) };
  return (
    <>
      {verb("drawn out")} <WayFields {...way} />
      <Details what="More of the way">
        <AlongFields {...way} />
      </Details>
    </>
  );
};

const SHAPES = { rectangle: "square-cornered", rounded: "rounded", ellipse: "elliptic", arch: "arched" };

export const PlatePhrase: Phrase<"plate"> = ({ step, verb, edits }) => {
  const { width, height } = step;
  const fixed = width !== null || height !== null;
  return (
    <>
      {verb("on a plate", ",")}{" "}
      <Pick
        label="Shape of the plate"
        value={step.shape}
        options={SHAPES}
        after=","
        edits={(shape) => edits({ ...step, shape })}
      />{" "}
      {fixed ? (
        <>
          <Length
            label="Width of the plate"
            value={width ?? 80}
            min={LEAST_MM}
            edits={(value) => edits({ ...step, width: value, height: height ?? 40 }, "width")}
          />{" "}
          ×{" "}
          <Length
            label="Height of the plate"
            value={height ?? 40}
            min={LEAST_MM}
            edits={(value) => edits({ ...step, width: width ?? 80, height: value }, "height")}
          />
        </>
      ) : (
        <>
          <Length
            label="Margin"
            value={step.margin}
            {...limits("plate", "margin")}
            edits={(margin) => edits({ ...step, margin }, "margin")}
          />{" "}
          around
        </>
      )}
      <Details what="More of the plate">
        <Pick
          label="Size of the plate"
          value={fixed ? "fixed" : "follows"}
          options={{ follows: "sized to the art", fixed: "of its own size" }}
          edits={(kind) =>
            edits({
              ...step,
              width: kind === "fixed" ? (width ?? 80) : null,
              height: kind === "fixed" ? (height ?? 40) : null,
            })
          }
        />
        {step.shape === "rounded" && (
          <>
            , corners rounded by{" "}
            <Length
              label="Corner radius"
              value={step.corner_radius}
              edits={(corner_radius) => edits({ ...step, corner_radius }, "corner")}
            />
          </>
        )}
      </Details>
    </>
  );
};
