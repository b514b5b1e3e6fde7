// Holes: filled, or made, with or without a tab.

import type { Recipe, StepOf } from "../../document/types";
import { limits } from "../../fields/limits";
import { useDesign } from "../../state/timeline";
import { Area, counted, Degrees, Details, Length, type Phrase, Pick, Plain, Told } from "./parts";

type Which = "all" | "small" | "narrow" | "picked";

const WHICH: Record<Which, string> = {
  all: "all",
  small: "small",
  narrow: "narrow",
  picked: "picked",
};

function which(step: StepOf<"fill_holes">): Which {
  if (step.only !== null) return "picked";
  if (step.smaller_than !== null) return "small";
  return step.narrower_than !== null ? "narrow" : "all";
}

export const FillHolesPhrase: Phrase<"fill_holes"> = ({ step, verb, edits, note }) => {
  const kind = which(step);
  const choose = (next: Which) =>
    edits({
      ...step,
      smaller_than: next === "small" ? (step.smaller_than ?? 4) : null,
      narrower_than: next === "narrow" ? (step.narrower_than ?? 1) : null,
      only: next === "picked" ? (step.only ?? []) : null,
    });
  return (
    <>
      <Pick label="Which holes" value={kind} options={WHICH} edits={choose} /> {verb("holes filled")}
      {step.smaller_than !== null && (
        <>
          {" "}
          under{" "}
          <Area
            label="Area of a small hole"
            value={step.smaller_than}
            edits={(smaller_than) => edits({ ...step, smaller_than }, "area")}
          />
        </>
      )}
      {step.narrower_than !== null && (
        <>
          {" "}
          under{" "}
          <Length
            label="Width of a narrow hole"
            value={step.narrower_than}
            {...limits("fill_holes", "narrower_than")}
            edits={(narrower_than) => edits({ ...step, narrower_than }, "width")}
          />
        </>
      )}
      {note && kind !== "all" && <Told>{counted(note.filled, "hole")} filled</Told>}
      {note && note.missing > 0 && <Told alarm>{counted(note.missing, "picked hole")} gone</Told>}
    </>
  );
};

const EDGE = { own: "its own edge" };

export const TabPhrase: Phrase<"tab"> = ({ step, verb, edits, at }) => {
  const design = useDesign();
  const others = design.layers.filter((layer) => layer.id !== at?.layer);
  const options: Record<string, string> = { ...EDGE };
  for (const layer of others) options[layer.id] = `the edge of ${layer.name.trim() || layer.id}`;
  const along = step.along?.from[0] ?? "own";
  const choose = (id: string) => {
    const recipe: Recipe | null = id === "own" ? null : { from: [id], steps: [] };
    return edits({ ...step, along: recipe });
  };
  return (
    <>
      {verb("with a tab")} at{" "}
      <Degrees
        label="Place of the tab"
        value={step.at}
        edits={(value) => edits({ ...step, at: value }, "at")}
      />
      <Details what="More of the tab">
        its hole{" "}
        <Length
          label="Diameter of the hole"
          value={step.hole}
          {...limits("tab", "hole")}
          edits={(hole) => edits({ ...step, hole }, "hole")}
        />{" "}
        wide,{" "}
        <Length
          label="Reach of the tab"
          value={step.reach}
          {...limits("tab", "reach")}
          edits={(reach) => edits({ ...step, reach }, "reach")}
        />{" "}
        outside <Pick label="Edge the tab goes by" value={along} options={options} edits={choose} after="," />{" "}
        rim{" "}
        <Length
          label="Rim of the tab"
          value={step.rim}
          {...limits("tab", "rim")}
          edits={(rim) => edits({ ...step, rim }, "rim")}
        />
      </Details>
    </>
  );
};

export const HolePhrase: Phrase<"hole"> = ({ step, verb, edits }) => {
  const { at, row } = step;
  const rows = { one: "a hole", row: "a row of holes" };
  return (
    <>
      {verb("with")}{" "}
      <Pick
        label="One hole or a row"
        value={row ? "row" : "one"}
        options={rows}
        edits={(kind) => edits({ ...step, row: kind === "row" ? { count: 2, dx: 20, dy: 0 } : null })}
      />{" "}
      of{" "}
      <Length
        label="Diameter of the hole"
        value={step.diameter}
        {...limits("hole", "diameter")}
        edits={(diameter) => edits({ ...step, diameter }, "diameter")}
      />
      <Details what="More of the hole">
        {row && (
          <>
            <Plain
              label="Number of holes"
              value={row.count}
              min={1}
              max={200}
              step={1}
              edits={(count) => edits({ ...step, row: { ...row, count: Math.round(count) } }, "count")}
            />{" "}
            of them,{" "}
            <Length
              label="Holes apart across"
              value={row.dx}
              min={-1000}
              edits={(dx) => edits({ ...step, row: { ...row, dx } }, "dx")}
            />{" "}
            across and{" "}
            <Length
              label="Holes apart upwards"
              value={row.dy}
              min={-1000}
              edits={(dy) => edits({ ...step, row: { ...row, dy } }, "dy")}
            />{" "}
            up from each other,{" "}
          </>
        )}
        at{" "}
        <Plain
          label="Hole across"
          value={at.x * 100}
          min={-100}
          max={200}
          step={1}
          after=" %"
          edits={(x) => edits({ ...step, at: { ...at, x: x / 100 } }, "x")}
        />{" "}
        across and{" "}
        <Plain
          label="Hole up"
          value={at.y * 100}
          min={-100}
          max={200}
          step={1}
          after=" %"
          edits={(y) => edits({ ...step, at: { ...at, y: y / 100 } }, "y")}
        />{" "}
        up,{" "}
        <Length
          label="Hole inside the edge"
          value={at.inset}
          min={-1000}
          edits={(inset) => edits({ ...step, at: { ...at, inset } }, "inset")}
        />{" "}
        inside
      </Details>
    </>
  );
};
