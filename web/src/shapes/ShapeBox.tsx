// A shape: what it is, its width and height, and what else the model says can be set of it.

import { memo } from "react";
import { SHAPES } from "../api/facts";
import { PlaceFold } from "../art/PlaceFold";
import { Labelled } from "../art/Standing";
import { patchShape, reshape } from "../document/art";
import { shapeName } from "../document/names";
import type { Shape, ShapeName } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { limitsOf } from "../fields/limits";
import { edit, edits, useUnit } from "../state/timeline";
import { Choice } from "../ui/Choice";
import { SHAPE_NAMES, ShapePicture } from "./pictures";

const SIDES = ["width", "height"];

const OPTIONS = SHAPE_NAMES.map((shape) => ({
  value: shape,
  text: shapeName(shape),
  show: (
    <span className="flex items-center gap-2">
      <ShapePicture shape={shape} />
      <span className="capitalize">{shapeName(shape)}</span>
    </span>
  ),
}));

export const ShapeBox = memo(function ShapeBox({ art }: { art: Shape }) {
  const others = Object.keys(SHAPES[art.shape].ranges).filter((field) => !SIDES.includes(field));
  return (
    <div className="flex flex-col gap-2 rounded-xl border border-line bg-sheet/60 p-2">
      <div className="grid grid-cols-[minmax(0,1fr)_5rem_5rem] items-end gap-2">
        <Choice
          row={art.id}
          label={`Shape ${art.id}`}
          value={art.shape}
          groups={[{ options: OPTIONS }]}
          onChange={(shape: ShapeName) => edit((design) => reshape(design, art.id, shape))}
        />
        {SIDES.map((field) => (
          <Measure key={field} art={art} field={field} />
        ))}
      </div>
      {others.length > 0 && (
        <div className="grid grid-cols-3 gap-2">
          {others.map((field) => (
            <Measure key={field} art={art} field={field} />
          ))}
        </div>
      )}
      <PlaceFold art={art} />
    </div>
  );
});

/** One number of a shape: its range, unit and what it is are the model's. */
function Measure({ art, field }: { art: Shape; field: string }) {
  const unit = useUnit();
  const range = SHAPES[art.shape].ranges[field];
  const values: Record<string, unknown> = { ...art };
  const value = Number(values[field]);
  const label = field.replaceAll("_", " ");
  const name = `${label.charAt(0).toUpperCase()}${label.slice(1)}`;
  const length = range?.unit === "mm";
  return (
    <Labelled text={name}>
      <EditNumber
        label={`${name} of the ${shapeName(art.shape)}`}
        title={range?.what ?? ""}
        value={value}
        unit={length ? unit : null}
        {...limitsOf(range)}
        step={length ? (unit === "mm" ? 0.5 : 0.02) : range?.whole ? 1 : 0.05}
        edits={(to) =>
          edits(
            (design) => patchShape(design, art.id, { [field]: range?.whole ? Math.round(to) : to }),
            `${art.id}.${field}`,
          )
        }
      />
    </Labelled>
  );
}
