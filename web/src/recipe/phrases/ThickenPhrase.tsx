// "thickened only where thin to 1.5 mm": the phrase of the thicken step.

import type { NoteReply } from "../../api/client";
import { length } from "../../document/units";
import { LEAST_MM, limits } from "../../fields/limits";
import { useUnit } from "../../state/timeline";
import { Details, InPlaces, Length, type Phrase, Pick } from "./parts";

type How = "thin" | "everywhere" | "by";

/** What the server keeps open where nothing is said, in mm. */
const OPEN = 0.3;

const HOW: Record<How, string> = {
  by: "every stroke, by",
  everywhere: "every stroke",
  thin: "only where thin",
};

const HOLES = { close: "may close", open: "stay open" };

export const ThickenPhrase: Phrase<"thicken"> = ({ step, verb, edits, note }) => {
  const unit = useUnit();
  const how: How = step.by !== null ? "by" : step.where;
  const choose = (next: How) => {
    const amount = step.to ?? 1;
    // Single strokes can only be brought to a width, single holes only be kept open where all grows.
    const only = next === "thin" ? step.only : null;
    const keep_only = next === "thin" ? null : step.keep_only;
    return next === "by"
      ? edits({ ...step, by: step.by ?? 0.4, to: null, only, keep_only })
      : edits({ ...step, by: null, to: amount, where: next, only, keep_only });
  };
  return (
    <>
      {verb("thickened")} <Pick label="How to thicken" value={how} edits={choose} options={HOW} />{" "}
      {step.by !== null ? (
        <Length
          label="Added to every stroke"
          value={step.by}
          {...limits("thicken", "by")}
          edits={(by) => edits({ ...step, by }, "by")}
        />
      ) : (
        <>
          {how === "thin" ? "to" : "to at least"}{" "}
          <Length
            label="Least stroke width"
            value={step.to ?? 1}
            min={LEAST_MM}
            max={100}
            edits={(to) => edits({ ...step, to }, "to")}
          />
        </>
      )}
      <Details what="More of the thickening">
        holes{" "}
        {how !== "thin" && (
          <>
            <Pick
              label="What becomes of holes"
              value={step.keep_open === null ? "close" : "open"}
              edits={(holes) =>
                edits({ ...step, keep_open: holes === "open" ? OPEN : null, keep_only: null })
              }
              options={HOLES}
            />{" "}
          </>
        )}
        {how === "thin" && "kept open "}
        {(how === "thin" || step.keep_open !== null) && (
          <Length
            label="Least width of holes"
            value={step.keep_open ?? OPEN}
            max={100}
            step={unit === "mm" ? 0.05 : 0.002}
            edits={(keep_open) => edits({ ...step, keep_open }, "open")}
          />
        )}
        {step.keep_only && (
          <InPlaces
            step={{ only: step.keep_only }}
            edits={({ only }) => edits({ ...step, keep_only: only })}
          />
        )}
      </Details>
      <InPlaces step={step} edits={edits} />
      {note && <Outcome note={note} told={how !== "by"} />}
    </>
  );
};

/** What came of it: how much it grew, holes that closed, holes that are new. */
function Outcome({ note, told }: { note: NoteReply; told: boolean }) {
  const unit = useUnit();
  const { wider_mm, closed_mm, new_holes } = note;
  const first = closed_mm[0];
  return (
    <span className="text-xs">
      {told && wider_mm !== null && <span className="text-soft"> (by {length(wider_mm, unit)})</span>}
      {first !== undefined && (
        <span className="text-alarm">
          {" "}
          – closes {closed_mm.length === 1 ? "a hole" : `${closed_mm.length} holes`}, from{" "}
          {length(first, unit)} on
        </span>
      )}
      {new_holes > 0 && (
        <span className="text-alarm">
          {" "}
          – makes {new_holes === 1 ? "a new hole" : `${new_holes} new holes`}
        </span>
      )}
    </span>
  );
}
