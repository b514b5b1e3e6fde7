// How pieces are laid: copies, sizes of sheets, distances, and how pieces may be turned.

import type { Sheets } from "../api/answers";
import { Labelled } from "../art/Standing";
import { type Laid, patchLaying, setSheet } from "../document/handOver";
import type { Design, Laying } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, useUnit } from "../state/timeline";
import { Choice } from "../ui/Choice";

const TURNING = [
  { value: "quarter" as const, text: "by quarters" },
  { value: "free" as const, text: "any way" },
  { value: "grain" as const, text: "keeping the grain" },
  { value: "none" as const, text: "not at all" },
];

/** Width and height in mm: ISO 216 (A series), ANSI Y14.1, and usual rolls and mats (common practice). */
const SIZES: [string, number, number][] = [
  ["A4, 210 × 297 mm", 210, 297],
  ["A3, 297 × 420 mm", 297, 420],
  ["A2, 420 × 594 mm", 420, 594],
  ["Letter, 8.5 × 11 in", 215.9, 279.4],
  ["Tabloid, 11 × 17 in", 279.4, 431.8],
  ["Mat, 12 × 12 in", 304.8, 304.8],
  ["Mat, 12 × 24 in", 304.8, 609.6],
  ["Roll, 610 × 1000 mm", 610, 1000],
  ["Half board, 600 × 400 mm", 600, 400],
  ["Board, 1200 × 600 mm", 1200, 600],
];

type Props = { of: Laid; laying: Laying; sheets: Sheets };

export function LaySettings({ of, laying, sheets }: Props) {
  const unit = useUnit();
  const set = (change: Partial<Laying>, gesture: string) =>
    edits((design) => patchLaying(design, of, change), `laying.${gesture}`);
  const step = unit === "mm" ? 1 : 0.05;
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
            value={laying.margin}
            unit={unit}
            step={step}
            min={0}
            max={200}
            edits={(margin) => set({ margin }, "margin")}
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
      {sheets.boards.map((board) => {
        const { material } = board;
        // The server's answer is of a moment ago, while another size may be in the document already.
        const { width, height } = laying.sizes.find((one) => one.material === material) ?? {
          width: board.width_mm,
          height: board.height_mm,
        };
        const sized = (size: { width?: number; height?: number }) => (design: Design) =>
          setSheet(design, of, material, size, { width, height });
        const side = (label: "Width" | "Height", value: number) => (
          <EditNumber
            label={`${label} of the sheets of ${board.title}`}
            value={value}
            unit={unit}
            step={step}
            min={1}
            max={10_000}
            edits={(to) => edits(sized({ [label.toLowerCase()]: to }), `${material}.${label}`)}
          />
        );
        const known = SIZES.find(([, w, h]) => near(w, width) && near(h, height))?.[0] ?? "own";
        return (
          <fieldset key={board.title}>
            <legend className="truncate font-semibold text-xs">{board.title}</legend>
            <div className="mt-0.5 grid grid-cols-2 gap-2">
              {side("Width", width)}
              {side("Height", height)}
            </div>
            {board.split > 0 && (
              <p className="mt-1 text-soft text-xs leading-7">
                Larger than a sheet: cut in {board.split} parts that overlap by{" "}
                <EditNumber
                  inline
                  label={`Overlap of the parts of ${board.title}`}
                  value={laying.overlap}
                  unit={unit}
                  step={step}
                  min={0}
                  max={100}
                  edits={(overlap) => set({ overlap }, "overlap")}
                />
                , with crosses to join them by.
              </p>
            )}
            <p className="mt-1 leading-7">
              <Choice
                inline
                label={`Sheet of ${board.title}`}
                value={known}
                groups={[
                  {
                    options: [
                      { value: "own", text: "a size of its own" },
                      ...SIZES.map(([text]) => ({ value: text, text })),
                    ],
                  },
                ]}
                onChange={(text) => {
                  const size = SIZES.find(([name]) => name === text);
                  if (size) edit(sized({ width: size[1], height: size[2] }));
                }}
              />
            </p>
          </fieldset>
        );
      })}
    </>
  );
}

const near = (a: number, b: number) => Math.abs(a - b) < 0.05;
