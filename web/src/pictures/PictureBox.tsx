// A picture: traced live over itself, with all that can be set of it.

import { useQuery } from "@tanstack/react-query";
import { memo } from "react";
import { Problem, type Traced } from "../api/answers";
import { api } from "../api/client";
import { PlaceFold } from "../art/PlaceFold";
import { Labelled } from "../art/Standing";
import { partTones, patchPicture } from "../document/art";
import { pictureName } from "../document/names";
import { round } from "../document/place";
import type { TracedPicture, Tracing } from "../document/types";
import { length } from "../document/units";
import { PICTURES } from "../drawings/bringIn";
import { Replace } from "../drawings/Replace";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { row } from "../ui/rows";
import { TracePreview } from "./TracePreview";

export const PictureBox = memo(function PictureBox({ art }: { art: TracedPicture }) {
  const traced = useQuery({
    queryKey: ["trace", art.file, art.trace, art.width, art.place.scale_x],
    queryFn: ({ signal }) => api.trace(art, signal),
    // While something is set, what was traced before stays.
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const set = (patch: Partial<Tracing>, gesture?: string) =>
    edits(
      (design) => patchPicture(design, art.id, { trace: { ...art.trace, ...patch } }),
      gesture && `${art.id}.${gesture}`,
    );
  return (
    <div className="flex flex-col gap-2 rounded-xl border border-line bg-sheet/60 p-2">
      <div className="flex items-center gap-2">
        <span
          {...row(art.id)}
          tabIndex={-1}
          className="min-w-0 flex-1 truncate font-display font-semibold text-lg"
        >
          {pictureName(art)}
        </span>
        <Replace id={art.id} name={pictureName(art)} accept={PICTURES} />
      </div>
      {traced.error ? (
        <p className="text-alarm">
          {traced.error instanceof Problem ? traced.error.sentence : "It cannot be traced."}
        </p>
      ) : (
        <TracePreview
          art={art}
          traced={traced.data ?? null}
          busy={traced.isFetching}
          onPick={(colour) =>
            edit((design) =>
              patchPicture(design, art.id, {
                trace: { ...art.trace, background: [...art.trace.background, colour].slice(-8) },
              }),
            )
          }
        />
      )}
      {traced.data && <Found art={art} traced={traced.data} />}
      <Settings art={art} traced={traced.data ?? null} set={set} />
      <PlaceFold art={art} />
    </div>
  );
});

/** What came of it, in words. */
function Found({ art, traced }: { art: TracedPicture; traced: Traced }) {
  const unit = useUnit();
  const said = [
    `${traced.pieces} ${traced.pieces === 1 ? "piece" : "pieces"}`,
    traced.holes > 0 && `${traced.holes} ${traced.holes === 1 ? "hole" : "holes"}`,
    traced.specks > 0 && `${traced.specks} specks left out`,
    traced.filled > 0 && `${traced.filled} small holes filled`,
    traced.thinnest_mm !== null && `thinnest ${length(traced.thinnest_mm, unit)}`,
  ].filter(Boolean);
  return (
    <div className="text-soft text-xs" data-testid={`traced-${art.id}`}>
      <p>{traced.pieces === 0 ? "Nothing of it is ink: set how dark ink is." : said.join(" · ")}</p>
      {traced.told.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
    </div>
  );
}

type SettingsProps = {
  art: TracedPicture;
  traced: Traced | null;
  set: (patch: Partial<Tracing>, gesture?: string) => ReturnType<typeof edits>;
};

function Settings({ art, traced, set }: SettingsProps) {
  const unit = useUnit();
  const { trace } = art;
  // Before it is traced nobody knows how large a dot is.
  const per = traced ? art.width / Math.max(traced.width_px, 1) : null;
  const [x0, , x1] = traced?.bounds_px ?? [0, 0, 0, 0];
  const wide = per === null ? art.width : Math.max((x1 - x0) * per, 0.1);
  const area = (name: string, pixels: number) =>
    per === null ? name : `${name}, ${round(pixels * per * per, 2)} mm²`;
  const check = (label: string, name: "invert" | "outer_only") => (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        checked={trace[name]}
        onChange={(event) => edit(set({ [name]: event.target.checked }).change)}
      />
      {label}
    </label>
  );
  return (
    <>
      <div className="grid grid-cols-3 items-end gap-2">
        <Labelled text="Width">
          <EditNumber
            label="Width of what is traced"
            value={round(wide, 2)}
            unit={unit}
            min={0.5}
            max={10000}
            step={unit === "mm" ? 0.5 : 0.02}
            edits={(to) =>
              edits(
                (design) => patchPicture(design, art.id, { width: round((art.width * to) / wide, 4) }),
                `${art.id}.width`,
              )
            }
          />
        </Labelled>
        <Labelled text={trace.threshold === null ? "Ink, % (found)" : "Ink from, %"}>
          <EditNumber
            label="How dark ink is, in per cent"
            value={round(100 * (trace.threshold ?? traced?.threshold ?? 0.5), 1)}
            unit={null}
            min={2}
            max={98}
            step={1}
            edits={(to) => set({ threshold: to / 100 }, "threshold")}
          />
        </Labelled>
        <Labelled text={trace.smooth === null ? "Smooth (found)" : "Smooth, dots"}>
          <EditNumber
            label="How far edges are evened out, in dots"
            value={trace.smooth ?? traced?.smooth ?? 0.5}
            unit={null}
            min={0}
            max={10}
            step={0.25}
            edits={(smooth) => set({ smooth }, "smooth")}
          />
        </Labelled>
        <Labelled text={area("Specks", trace.specks)}>
          <EditNumber
            label="Specks of fewer dots are left out"
            value={trace.specks}
            unit={null}
            min={0}
            max={1e6}
            step={5}
            edits={(specks) => set({ specks }, "specks")}
          />
        </Labelled>
        <Labelled text={area("Holes", trace.holes)}>
          <EditNumber
            label="Holes of fewer dots are filled"
            value={trace.holes}
            unit={null}
            min={0}
            max={1e6}
            step={5}
            edits={(holes) => set({ holes }, "holes")}
          />
        </Labelled>
        <Labelled text="Tones">
          <Choice
            label="Tones"
            value={String(trace.tones)}
            groups={[{ options: ["1", "2", "3", "4", "5", "6"].map((value) => ({ value, text: value })) }]}
            onChange={(value) => edit((design) => partTones(design, art.id, Number(value)))}
          />
        </Labelled>
      </div>
      {check("One outer line only, nothing inside it", "outer_only")}
      {check("Light is ink", "invert")}
      <div className="flex flex-wrap gap-1">
        {trace.threshold !== null && (
          <Button
            look="quiet"
            className="h-7 px-1.5 text-xs"
            onClick={() => edit(set({ threshold: null }).change)}
          >
            Find the ink by itself
          </Button>
        )}
        {trace.smooth !== null && (
          <Button
            look="quiet"
            className="h-7 px-1.5 text-xs"
            onClick={() => edit(set({ smooth: null }).change)}
          >
            Smooth by itself
          </Button>
        )}
        {trace.background.length > 0 && (
          <Button
            look="quiet"
            className="h-7 px-1.5 text-xs"
            onClick={() => edit(set({ background: [] }).change)}
          >
            Keep all colours again
          </Button>
        )}
      </div>
    </>
  );
}
