// Holes: filled, or made, with or without a tab.

import type { Recipe, StepOf } from "../../document/types";
import { useDesign } from "../history";
import { Area, counted, Degrees, Length, type Phrase, Pick, Plain, Told } from "./parts";

type Which = "all" | "small" | "narrow" | "picked";

const WHICH: Record<Which, string> = {
  all: "all",
  small: "those under",
  narrow: "those narrower than",
  picked: "picked ones",
};

function which(step: StepOf<"fill_holes">): Which {
  if (step.only !== null) return "picked";
  if (step.smaller_than !== null) return "small";
  return step.narrower_than !== null ? "narrow" : "all";
}

export const FillHolesPhrase: Phrase<"fill_holes"> = ({ step, verb, onChange, note }) => {
  const kind = which(step);
  const choose = (next: Which) =>
    onChange({
      ...step,
      smaller_than: next === "small" ? (step.smaller_than ?? 4) : null,
      narrower_than: next === "narrow" ? (step.narrower_than ?? 1) : null,
      only: next === "picked" ? (step.only ?? []) : null,
    });
  return (
    <>
      {verb("holes filled", ":")} <Pick label="Which holes" value={kind} options={WHICH} onChange={choose} />{" "}
      {step.smaller_than !== null && (
        <Area
          label="Area of a small hole"
          value={step.smaller_than}
          onChange={(smaller_than) => onChange({ ...step, smaller_than }, "area")}
        />
      )}
      {step.narrower_than !== null && (
        <Length
          label="Width of a narrow hole"
          value={step.narrower_than}
          above={0}
          onChange={(narrower_than) => onChange({ ...step, narrower_than }, "width")}
        />
      )}
      {note && kind !== "all" && <Told>{counted(note.filled, "hole")} filled</Told>}
      {note && note.missing > 0 && <Told alarm>{counted(note.missing, "picked hole")} gone</Told>}
    </>
  );
};

const EDGE = { own: "its own edge" };

export const TabPhrase: Phrase<"tab"> = ({ step, verb, onChange, at }) => {
  const design = useDesign();
  const others = design.layers.filter((layer) => layer.id !== at?.layer);
  const options: Record<string, string> = { ...EDGE };
  for (const layer of others) options[layer.id] = `the edge of ${layer.name.trim() || layer.id}`;
  const along = step.along?.from[0] ?? "own";
  const choose = (id: string) => {
    const recipe: Recipe | null = id === "own" ? null : { from: [id], steps: [] };
    onChange({ ...step, along: recipe });
  };
  return (
    <>
      {verb("with a tab")} at{" "}
      <Degrees
        label="Place of the tab"
        value={step.at}
        onChange={(value) => onChange({ ...step, at: value }, "at")}
      />
      , its hole{" "}
      <Length
        label="Diameter of the hole"
        value={step.hole}
        above={0}
        max={200}
        onChange={(hole) => onChange({ ...step, hole }, "hole")}
      />{" "}
      wide,{" "}
      <Length
        label="Reach of the tab"
        value={step.reach}
        min={-200}
        max={200}
        onChange={(reach) => onChange({ ...step, reach }, "reach")}
      />{" "}
      outside{" "}
      <Pick label="Edge the tab goes by" value={along} options={options} onChange={choose} after="," /> rim{" "}
      <Length
        label="Rim of the tab"
        value={step.rim}
        above={0}
        max={200}
        onChange={(rim) => onChange({ ...step, rim }, "rim")}
      />
    </>
  );
};

export const HolePhrase: Phrase<"hole"> = ({ step, verb, onChange }) => {
  const { at, row } = step;
  const rows = { one: "one hole", row: "a row of holes" };
  return (
    <>
      {verb("with")}{" "}
      <Pick
        label="One hole or a row"
        value={row ? "row" : "one"}
        options={rows}
        onChange={(kind) => onChange({ ...step, row: kind === "row" ? { count: 2, dx: 20, dy: 0 } : null })}
      />{" "}
      of{" "}
      <Length
        label="Diameter of the hole"
        value={step.diameter}
        above={0}
        onChange={(diameter) => onChange({ ...step, diameter }, "diameter")}
      />
      {row && (
        <>
          {" "}
          –{" "}
          <Plain
            label="Number of holes"
            value={row.count}
            min={1}
            max={200}
            step={1}
            onChange={(count) => onChange({ ...step, row: { ...row, count: Math.round(count) } }, "count")}
          />{" "}
          of them,{" "}
          <Length
            label="Holes apart across"
            value={row.dx}
            min={-1000}
            onChange={(dx) => onChange({ ...step, row: { ...row, dx } }, "dx")}
          />{" "}
          across and{" "}
          <Length
            label="Holes apart upwards"
            value={row.dy}
            min={-1000}
            onChange={(dy) => onChange({ ...step, row: { ...row, dy } }, "dy")}
          />{" "}
          up from each other
        </>
      )}
      , at{" "}
      <Plain
        label="Hole across"
        value={at.x * 100}
        min={-100}
        max={200}
        step={1}
        after=" %"
        onChange={(x) => onChange({ ...step, at: { ...at, x: x / 100 } }, "x")}
      />{" "}
      across and{" "}
      <Plain
        label="Hole up"
        value={at.y * 100}
        min={-100}
        max={200}
        step={1}
        after=" %"
        onChange={(y) => onChange({ ...step, at: { ...at, y: y / 100 } }, "y")}
      />{" "}
      up,{" "}
      <Length
        label="Hole inside the edge"
        value={at.inset}
        min={-1000}
        onChange={(inset) => onChange({ ...step, at: { ...at, inset } }, "inset")}
      />{" "}
      inside
    </>
  );
};
