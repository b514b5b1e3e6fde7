// How words that are too wide, or not wide enough, are made to fit: a sentence for each block of words.

import { blocksOf, fitOf, namesOf, patchFit } from "../document/nameList";
import type { Design, Fit } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, useUnit } from "../state/timeline";
import { Choice } from "../ui/Choice";

const RULES = [
  { value: "keep" as const, text: "keep their size" },
  { value: "shrink" as const, text: "get smaller" },
  { value: "stretch" as const, text: "are stretched" },
  { value: "break" as const, text: "stand on several lines" },
];

export function Fits({ design }: { design: Design }) {
  const unit = useUnit();
  const used = new Set(namesOf(design).columns.map((one) => one.art));
  const set = (art: string, change: Partial<Fit>) => edit((now) => patchFit(now, art, change));
  return blocksOf(design)
    .filter((one) => used.has(one.id))
    .map(({ id, text }) => {
      const fit = fitOf(design, id);
      return (
        <p key={id} className="leading-8">
          In place of “{text.slice(0, 20)}”, words that are {fit.rule === "stretch" ? "not" : "over"}{" "}
          <EditNumber
            inline
            label={`Width of “${text.slice(0, 20)}”`}
            value={fit.width}
            unit={unit}
            above={0}
            max={1000}
            edits={(width) => edits((now) => patchFit(now, id, { width }), `fit.${id}`)}
          />{" "}
          wide{" "}
          <Choice
            inline
            label={`How words for “${text.slice(0, 20)}” are made to fit`}
            value={fit.rule}
            groups={[{ options: RULES }]}
            onChange={(rule) => set(id, { rule })}
          />
          {fit.rule === "stretch" && (
            <>
              {" "}
              to{" "}
              <EditNumber
                inline
                label={`Narrowest of “${text.slice(0, 20)}”`}
                value={fit.least}
                unit={null}
                step={0.05}
                min={0.1}
                max={1}
                edits={(least) => edits((now) => patchFit(now, id, { least }), `fit.${id}.least`)}
              />{" "}
              of their width at the narrowest
            </>
          )}
          .
        </p>
      );
    });
}
