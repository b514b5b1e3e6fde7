// What helps to lay layers upon each other: marks in all files, a frame to weed by, a numbered picture.

import { patchLiningUp } from "../document/handOver";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, usePart, useUnit } from "../state/timeline";
import { Choice } from "../ui/Choice";

const MARKS = [
  { value: "none" as const, text: "no marks" },
  { value: "crosses" as const, text: "crosses at three corners" },
  { value: "pins" as const, text: "holes for 3 mm pins at three corners" },
];

const AROUND = [
  { value: "all" as const, text: "the job" },
  { value: "groups" as const, text: "each group of pieces" },
];

export function LiningUp() {
  const unit = useUnit();
  const set = usePart((design) => design.hand_over.lining_up);
  const step = unit === "mm" ? 1 : 0.05;
  return (
    <section aria-label="Lining up">
      <p className="leading-8">
        All files have{" "}
        <Choice
          inline
          label="Marks to line up by"
          value={set.marks}
          groups={[{ options: MARKS }]}
          onChange={(marks) => edit((design) => patchLiningUp(design, { marks }))}
        />
        {set.marks !== "none" && (
          <>
            ,{" "}
            <EditNumber
              inline
              label="Distance of the marks"
              value={set.beside}
              unit={unit}
              step={step}
              min={1}
              max={200}
              edits={(beside) => edits((design) => patchLiningUp(design, { beside }), "lining.beside")}
            />{" "}
            from the job, and in the corners of sheets
          </>
        )}
        . What is weeded is cut with {set.frame > 0 ? "a frame" : "no frame:"}{" "}
        <EditNumber
          inline
          label="Distance of the weeding frame"
          value={set.frame}
          unit={unit}
          step={step}
          min={0}
          max={200}
          edits={(frame) => edits((design) => patchLiningUp(design, { frame }), "lining.frame")}
        />{" "}
        around{" "}
        {set.frame > 0 ? (
          <Choice
            inline
            label="What the frame goes around"
            value={set.frame_around}
            groups={[{ options: AROUND }]}
            onChange={(frame_around) => edit((design) => patchLiningUp(design, { frame_around }))}
          />
        ) : (
          "the job"
        )}
        .
      </p>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={set.key}
          onChange={(event) => edit((design) => patchLiningUp(design, { key: event.target.checked }))}
        />
        A picture of all pieces with their numbers, at true size, to place them by (key.pdf)
      </label>
    </section>
  );
}
