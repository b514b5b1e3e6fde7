// What leaves for the mill: which files, what is done in which order, and how long it takes.

import { useCarving } from "../carving/CarvingPanel";
import { patchCarving } from "../document/carving";
import type { Carving } from "../document/types";
import { length } from "../document/units";
import { edit, useDesign, useUnit } from "../state/timeline";
import { Choice } from "../ui/Choice";

const CHANGES = [
  { value: "files" as const, text: "a file for each tool" },
  { value: "in_one" as const, text: "one file that stops for each tool (M6)" },
];

export function Mill() {
  const design = useDesign();
  return design.carving ? <Files carving={design.carving} /> : null;
}

function Files({ carving }: { carving: Carving }) {
  const unit = useUnit();
  const design = useDesign();
  const { data } = useCarving(design);
  const [x0, y0, x1, y1] = data?.stock_mm ?? [0, 0, 0, 0];
  return (
    <section aria-label="For the mill">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={carving.gcode}
          onChange={({ target }) => edit((now) => patchCarving(now, { gcode: target.checked }))}
        />
        G-code (RS-274/NGC), in mm, from the stock's lower left corner, Z0 on its top
      </label>
      {carving.gcode && (
        <p className="leading-8">
          As{" "}
          <Choice
            inline
            label="Files for the mill"
            value={carving.change}
            groups={[{ options: CHANGES }]}
            onChange={(change) => edit((now) => patchCarving(now, { change }))}
          />
          {data && (
            <>
              : {data.files.join(", ")}. The stock is {length(x1 - x0, unit)} × {length(y1 - y0, unit)},{" "}
              {length(data.thickness_mm, unit)} thick.
            </>
          )}
        </p>
      )}
      {data && (
        <ol className="list-decimal pl-6" aria-label="What the mill does">
          {data.operations.map((one) => (
            <li key={one.title}>
              {one.title}{" "}
              <span className="text-soft">
                with the {one.tool}: {minutes(one.seconds)} for {(one.cut_mm / 1000).toFixed(1)} m
              </span>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

const minutes = (seconds: number) =>
  seconds < 90 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`;
