// The sheets of one board: their size, its offcuts, what is kept free, and how many of its pieces are laid.

import { Plus, SquareDashed } from "lucide-react";
import type { Sheets } from "../api/answers";
import {
  addOffcut,
  keptFreeOf,
  type Laid,
  patchLaying,
  setKeptFree,
  setSheet,
  sizeOf,
} from "../document/laying";
import type { Design, Laying } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, useDesign, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { QuantityField } from "./QuantityField";

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

type Props = { of: Laid; laying: Laying; board: Sheets["boards"][number] };

export function BoardSettings({ of, laying, board }: Props) {
  const unit = useUnit();
  const design = useDesign();
  const step = unit === "mm" ? 1 : 0.05;
  const { material } = board;
  const sheet = sizeOf(laying, board);
  const { width, height } = sheet;
  const sized = (size: { width?: number; height?: number }) => (design: Design) =>
    setSheet(design, of, material, size, sheet);
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
  const layers = [...new Set(board.items.map((one) => one.layer))];
  const free = keptFreeOf(laying, material);
  return (
    <fieldset>
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
            edits={(overlap) => edits((now) => patchLaying(now, of, { overlap }), "laying.overlap")}
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
      <div className="grid grid-cols-2 gap-2">
        {layers.map((layer) => {
          const title = design.layers.find((one) => one.id === layer)?.name || layer;
          return (
            <QuantityField
              key={layer}
              of={of}
              laying={laying}
              layer={layer}
              piece={null}
              text={`${title} ×`}
              label={`Quantity of ${title}`}
            />
          );
        })}
      </div>
      <div className="mt-1.5 flex gap-1">
        <Button
          look="quiet"
          className="px-1.5"
          onClick={() => edit((now) => addOffcut(now, of, material, sheet))}
        >
          <Plus size={14} /> Offcut
        </Button>
        <Button
          look="quiet"
          className="px-1.5"
          title="An area that nothing is laid on"
          onClick={() => {
            const box = { x: 0, y: 0, width: Math.min(40, width), height: Math.min(40, height) };
            edit((now) => setKeptFree(now, of, material, free.length, box, sheet));
          }}
        >
          <SquareDashed size={14} /> Keep free
        </Button>
      </div>
    </fieldset>
  );
}

const near = (a: number, b: number) => Math.abs(a - b) < 0.05;
