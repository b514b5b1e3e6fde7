// Where art stands, by numbers: its place, turn and stretch, and the art it is set against.

import { Link2, Link2Off } from "lucide-react";
import { isLettering, patchArt } from "../document/art";
import { sourceName } from "../document/names";
import { round } from "../document/place";
import type { Against, Art, Place } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { select, useSelection } from "../state/selection";
import { commit, edits, useDesign, useUnit } from "../state/timeline";
import { IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { CentreOn } from "./CentreOn";

const SIDES: Record<Against["side"], string> = {
  below: "under",
  above: "above",
  left: "left of",
  right: "right of",
};

const NOTHING = "nothing";

export function Standing({ art }: { art: Art }) {
  const unit = useUnit();
  const free = useSelection((state) => state.free);
  const { place } = art;
  const set = (patch: Partial<Place>, gesture: string) =>
    edits(
      (design) => patchArt(design, art.id, { place: { ...place, ...patch } }),
      `${art.id}.place.${gesture}`,
    );
  const stretch = (axis: "scale_x" | "scale_y", percent: number) => {
    const scale = percent / 100;
    const factor = scale / place[axis];
    const other = axis === "scale_x" ? "scale_y" : "scale_x";
    return set(free ? { [axis]: scale } : { [axis]: scale, [other]: round(place[other] * factor, 4) }, axis);
  };

  return (
    <>
      {(["x", "y"] as const).map((axis) => (
        <Labelled key={axis} text={axis === "x" ? "Across" : "Up"}>
          <EditNumber
            label={axis === "x" ? "Across" : "Up"}
            value={place[axis]}
            unit={unit}
            min={-10000}
            max={10000}
            step={unit === "mm" ? 0.5 : 0.02}
            edits={(value) => set({ [axis]: value }, axis)}
          />
        </Labelled>
      ))}
      <div className="col-span-2 grid grid-cols-[1fr_1fr_auto_1fr] items-end gap-1.5">
        <Labelled text="Turned, °">
          <EditNumber
            label="Turned"
            value={place.rotate}
            unit={null}
            min={-3600}
            max={3600}
            step={1}
            edits={(rotate) => set({ rotate }, "rotate")}
          />
        </Labelled>
        {(["scale_x", "scale_y"] as const)
          .map((axis) => (
            <Labelled key={axis} text={axis === "scale_x" ? "Width, %" : "Height, %"}>
              <EditNumber
                label={axis === "scale_x" ? "Width in per cent" : "Height in per cent"}
                value={place[axis] * 100}
                unit={null}
                min={-10000}
                max={10000}
                step={1}
                edits={(percent) => stretch(axis, percent || 1)}
              />
            </Labelled>
          ))
          .toSpliced(1, 0, <Proportions key="lock" />)}
      </div>
      <CentreOn art={art} />
      <SetAgainst art={art} />
    </>
  );
}

function Proportions() {
  const free = useSelection((state) => state.free);
  return (
    <IconButton
      label={free ? "Width and height change freely. Keep proportions" : "Proportions are kept. Release them"}
      aria-pressed={!free}
      className={free ? "" : "bg-bench text-ink"}
      onClick={() => select({ free: !free })}
    >
      {free ? <Link2Off size={15} /> : <Link2 size={15} />}
    </IconButton>
  );
}

/** "Stands under KITE FAIR, overlapping 0.3 mm". */
function SetAgainst({ art }: { art: Art }) {
  const design = useDesign();
  const others = freeOf(design.art, art.id);
  if (others.length === 0) return null;
  const { against } = art;
  const set = (next: Against | null, gesture?: string) =>
    edits((d) => patchArt(d, art.id, { against: next }), gesture && `${art.id}.${gesture}`);
  return (
    <p className="col-span-2 leading-7">
      Set against{" "}
      <Choice
        inline
        label="Set against"
        value={against?.art ?? NOTHING}
        groups={[
          {
            options: [NOTHING, ...others.map((one) => one.id)].map((id) => ({
              value: id,
              text: id === NOTHING ? "nothing" : sourceName(design, id),
            })),
          },
        ]}
        onChange={(id) =>
          commit(set(id === NOTHING ? null : { side: "below", overlap: 0.3, ...against, art: id }))
        }
      />
      {against && (
        <>
          , standing{" "}
          <Choice
            inline
            label="Side"
            value={against.side}
            groups={[
              {
                options: Object.entries(SIDES).map(([value, text]) => ({
                  value: value as Against["side"],
                  text,
                })),
              },
            ]}
            onChange={(side) => commit(set({ ...against, side }))}
          />{" "}
          it, overlapping{" "}
          <EditNumber
            inline
            label="Overlap with the other art"
            value={against.overlap}
            unit={design.unit}
            min={-1000}
            max={1000}
            edits={(overlap) => set({ ...against, overlap }, "against")}
          />
        </>
      )}
    </p>
  );
}

/** Art that other art can stand by: what does not stand by that itself. */
export function freeOf(all: Art[], id: string): Art[] {
  return all.filter((one) => one.id !== id && !leansOn(all, one, id));
}

/** Whether art stands by other art, directly or through more of it. */
function leansOn(all: Art[], art: Art, id: string): boolean {
  const by = [art.against?.art, isLettering(art) ? art.into?.art : undefined];
  return all.some((one) => by.includes(one.id) && (one.id === id || leansOn(all, one, id)));
}

export function Labelled({ text, children }: { text: string; children: React.ReactNode }) {
  return (
    <div className="min-w-0">
      <div className="mb-0.5 truncate text-soft text-xs">{text}</div>
      {children}
    </div>
  );
}
