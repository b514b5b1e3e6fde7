// What is picked on the sheets, by numbers.

import type { ReactNode } from "react";
import type { Sheets } from "../api/answers";
import { Labelled } from "../art/Standing";
import { keptFreeOf, type Laid, setKeptFree, setOffcut, sizeOf } from "../document/laying";
import type { KeptFree, Laying } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import type { Pick, Picked } from "./picked";
import { QuantityField } from "./QuantityField";

type Props = { of: Laid; laying: Laying; sheets: Sheets; picked: Picked; pick: Pick };

export function PickedFields(props: Props) {
  const { picked } = props;
  if (picked.kind === "piece") return <Piece {...props} index={picked.index} />;
  if (picked.kind === "free") return <Free {...props} {...picked} />;
  return <Corner {...props} offcut={picked.offcut} index={picked.index} />;
}

function Piece({ of, laying, sheets, index }: Props & { index: number }) {
  const one = laying.placed[index];
  const item = one && sheets.boards[one.board]?.items[one.item];
  // Of a list each row says how many it is made.
  if (!item || of === "list") return null;
  return (
    <Part title="This piece">
      <QuantityField
        of={of}
        laying={laying}
        layer={item.layer}
        piece={item.piece}
        text="Quantity"
        label="Quantity of this piece"
      />
    </Part>
  );
}

const SIDES: [keyof KeptFree, string][] = [
  ["x", "From left"],
  ["y", "From below"],
  ["width", "Width"],
  ["height", "Height"],
];

function Free({ of, laying, sheets, pick, material, index }: Props & { material: string; index: number }) {
  const unit = useUnit();
  const box = keptFreeOf(laying, material)[index];
  const board = sheets.boards.find((one) => one.material === material);
  if (!box || !board) return null;
  const sheet = sizeOf(laying, board);
  return (
    <Part title="Kept free">
      {SIDES.map(([side, text]) => (
        <Labelled key={side} text={text}>
          <EditNumber
            label={`Kept free: ${text.toLowerCase()}`}
            value={box[side]}
            unit={unit}
            step={unit === "mm" ? 1 : 0.05}
            min={side === "width" || side === "height" ? 0.1 : 0}
            max={10_000}
            edits={(to) =>
              edits(
                (now) => setKeptFree(now, of, material, index, { ...box, [side]: to }, sheet),
                `free.${material}.${index}.${side}`,
              )
            }
          />
        </Labelled>
      ))}
      <Button
        look="quiet"
        className="justify-center"
        onClick={() => {
          pick(null);
          edit((now) => setKeptFree(now, of, material, index, null, sheet));
        }}
      >
        Remove
      </Button>
    </Part>
  );
}

function Corner({ of, laying, pick, offcut, index }: Props & { offcut: number; index: number }) {
  const unit = useUnit();
  const outline = laying.offcuts[offcut]?.outline;
  const corner = outline?.[index];
  if (!outline || !corner) return null;
  return (
    <Part title={`Corner ${index + 1} of the offcut`}>
      {(["x", "y"] as const).map((axis, k) => (
        <Labelled key={axis} text={axis === "x" ? "Across" : "Up"}>
          <EditNumber
            label={axis === "x" ? "Corner: across" : "Corner: up"}
            value={corner[k] ?? 0}
            unit={unit}
            step={unit === "mm" ? 1 : 0.05}
            min={-10_000}
            max={10_000}
            edits={(to) =>
              edits((now) => {
                const next: [number, number] = axis === "x" ? [to, corner[1]] : [corner[0], to];
                return setOffcut(now, of, offcut, outline.with(index, next));
              }, `offcut.${offcut}.${index}.${axis}`)
            }
          />
        </Labelled>
      ))}
      <Button
        look="quiet"
        className="col-span-2 justify-center"
        disabled={outline.length <= 3}
        onClick={() => {
          pick(null);
          edit((now) => setOffcut(now, of, offcut, outline.toSpliced(index, 1)));
        }}
      >
        Remove corner
      </Button>
    </Part>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="rounded-lg bg-bench p-2.5">
      <h3 className="font-semibold text-xs">{title}</h3>
      <div className="mt-1 grid grid-cols-2 items-end gap-2">{children}</div>
    </section>
  );
}
