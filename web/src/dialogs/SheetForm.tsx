// The sheet that the whole job is laid on: its size, and where the job lies on it.

import { centred, resized } from "../document/sheet";
import { length } from "../document/units";
import { EditNumber } from "../fields/EditNumber";
import { LEAST_MM } from "../fields/limits";
import type { Box } from "../stage/view";
import { commit, edits, usePart, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";

/** A size to begin with, in mm. */
const USUAL = { width: 300, height: 200 };

export function SheetForm({ job }: { job: Box }) {
  const sheet = usePart((design) => design.sheet);
  const unit = useUnit();
  const set = (next: typeof sheet, gesture?: string) =>
    edits((design) => ({ ...design, sheet: next }), gesture && `sheet.${gesture}`);
  const [x0, y0] = job;
  if (!sheet)
    return (
      <Button className="mt-2 w-full justify-center" onClick={() => commit(set(centred(USUAL, job)))}>
        Lay it on a sheet
      </Button>
    );
  const fromEdge = [x0 - sheet.x, y0 - sheet.y] as const;
  return (
    <section aria-label="Sheet" className="flex flex-col gap-2">
      <h3 className="font-semibold">On a sheet</h3>
      <div className="grid grid-cols-2 gap-2">
        {(["width", "height"] as const).map((side) => (
          <div key={side}>
            <div className="mb-0.5 text-soft text-xs">{side === "width" ? "Width" : "Height"}</div>
            <EditNumber
              label={side === "width" ? "Width of the sheet" : "Height of the sheet"}
              value={sheet[side]}
              unit={unit}
              min={LEAST_MM}
              max={10_000}
              step={unit === "mm" ? 1 : 0.05}
              edits={(to) => set(resized(sheet, side, to, job), side)}
            />
          </div>
        ))}
        {(["x", "y"] as const).map((way, index) => (
          <div key={way}>
            <div className="mb-0.5 text-soft text-xs">
              {way === "x" ? "From its left edge" : "From its foot"}
            </div>
            <EditNumber
              label={way === "x" ? "From the sheet’s left edge" : "From the sheet’s foot"}
              value={fromEdge[index] ?? 0}
              unit={unit}
              min={-10_000}
              max={10_000}
              step={unit === "mm" ? 1 : 0.05}
              edits={(by) => set({ ...sheet, [way]: (way === "x" ? x0 : y0) - by }, way)}
            />
          </div>
        ))}
      </div>
      <div className="flex gap-2">
        <Button onClick={() => commit(set(centred(sheet, job)))}>In the middle</Button>
        <Button look="quiet" onClick={() => commit(set(null))}>
          No sheet
        </Button>
      </div>
      <p className="text-soft text-xs">
        Files get the size of the sheet, {length(sheet.width, unit)} × {length(sheet.height, unit)}.
      </p>
    </section>
  );
}
