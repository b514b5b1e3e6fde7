// How pieces are laid: copies, margins, distances, and how pieces may be turned.

import type { Sheets } from "../api/answers";
import { Labelled } from "../art/Standing";
import { type Laid, patchLaying } from "../document/laying";
import type { Laying } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, useUnit } from "../state/timeline";
import { Choice } from "../ui/Choice";
import { BoardSettings } from "./BoardSettings";

const TURNING = [
  { value: "quarter" as const, text: "by quarters" },
  { value: "free" as const, text: "any way" },
  { value: "grain" as const, text: "keeping the grain" },
  { value: "none" as const, text: "not at all" },
];

const EDGES = ["left", "right", "top", "bottom"] as const;

type Props = { of: Laid; laying: Laying; sheets: Sheets };

export function LaySettings({ of, laying, sheets }: Props) {
  const unit = useUnit();
  const set = (change: Partial<Laying>, gesture: string) =>
    edits((design) => patchLaying(design, of, change), `laying.${gesture}`);
  const step = unit === "mm" ? 1 : 0.05;
  const { margins } = laying;
  const all = (edge: number) => ({ left: edge, right: edge, top: edge, bottom: edge });
  const alike = EDGES.every((edge) => margins[edge] === margins.left);
  return (
    <>
      <div className="grid grid-cols-3 gap-2">
        <Labelled text="Copies">
          <EditNumber
            label="Copies of the whole job"
            value={laying.copies}
            unit={null}
            decimals={0}
            step={1}
            min={1}
            max={500}
            edits={(copies) => set({ copies: Math.round(copies) }, "copies")}
          />
        </Labelled>
        <Labelled text="Margin">
          <EditNumber
            label="Margin of the sheets"
            value={Math.max(...EDGES.map((edge) => margins[edge]))}
            unit={unit}
            step={step}
            min={0}
            max={200}
            edits={(edge) => set({ margins: all(edge) }, "margin")}
          />
        </Labelled>
        <Labelled text="Apart">
          <EditNumber
            label="Distance between pieces"
            value={laying.spacing}
            unit={unit}
            step={step}
            min={0}
            max={100}
            edits={(spacing) => set({ spacing }, "spacing")}
          />
        </Labelled>
      </div>
      <details open={!alike || undefined}>
        <summary className="cursor-pointer text-soft text-xs">Margin by side</summary>
        <div className="mt-1 grid grid-cols-2 gap-2">
          {EDGES.map((edge) => (
            <Labelled key={edge} text={edge[0]?.toUpperCase() + edge.slice(1)}>
              <EditNumber
                label={`Margin: ${edge}`}
                value={margins[edge]}
                unit={unit}
                step={step}
                min={0}
                max={200}
                edits={(to) => set({ margins: { ...margins, [edge]: to } }, `margin.${edge}`)}
              />
            </Labelled>
          ))}
        </div>
      </details>
      <p className="leading-7">
        Pieces are turned{" "}
        <Choice
          inline
          label="How pieces are turned"
          value={laying.turning}
          groups={[{ options: TURNING }]}
          onChange={(turning) => edit((design) => patchLaying(design, of, { turning }))}
        />
      </p>
      {sheets.boards.map((board) => (
        <BoardSettings key={board.title} of={of} laying={laying} board={board} />
      ))}
    </>
  );
}
