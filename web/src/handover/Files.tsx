// The files as pictures: exactly what each of them holds.

import { useQuery } from "@tanstack/react-query";
import { FlipHorizontal2, LayoutGrid } from "lucide-react";
import { type LeavingFile, Problem } from "../api/answers";
import { api } from "../api/client";
import { length } from "../document/units";
import { useLaying } from "../sheets/useLaying";
import { useDesign, usePart, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { useRested } from "../ui/rested";
import { useRequestName, Waiting } from "../ui/Waiting";

/** The files of the design as it stands, and whether they are still those of an earlier one. */
export function useFiles() {
  const now = useDesign();
  const design = useRested(now);
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: [
      "leaving",
      design.art,
      design.layers,
      design.hand_over,
      design.materials,
      design.sheet,
      design.name,
      design.unit,
    ],
    queryFn: ({ signal }) => api.leaving(design, signal),
    placeholderData: (before) => before,
    gcTime: 30_000,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return { data, error, old: isPlaceholderData || design !== now };
}

export function Files() {
  const { data, error, old } = useFiles();
  return (
    <section aria-label="Files" aria-busy={old} className="flex flex-col gap-4">
      {error && (
        <p role="alert" className="text-alarm">
          {error instanceof Problem ? error.sentence : "The files cannot be shown."}
        </p>
      )}
      {!data && !error && <p className="text-soft">Drawing the files…</p>}
      {data?.sheets_out_of_date && <OutOfDate />}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-4">
        {data?.files.map((file) => (
          <Card key={file.name} file={file} />
        ))}
      </ul>
      {data?.files.length === 0 && <p className="text-alarm">No layer leaves: all are hidden or guides.</p>}
    </section>
  );
}

/** Pieces lie on sheets as they were before the design changed. */
function OutOfDate() {
  const name = useRequestName();
  const { lay, busy, cancel, trouble } = useLaying("design", name);
  return (
    <div role="alert" className="flex flex-wrap items-center gap-3 rounded-xl border border-alarm/50 p-3">
      <p className="flex-1">The design has changed since it was laid on sheets: boards leave instead.</p>
      <Waiting what="Laying pieces" name={name} busy={busy} cancel={cancel} />
      <Button disabled={busy} onClick={() => void lay()}>
        <LayoutGrid size={15} /> Lay out anew
      </Button>
      {trouble && <p className="basis-full text-alarm">{trouble}</p>}
    </div>
  );
}

function Card({ file }: { file: LeavingFile }) {
  const unit = useUnit();
  const layers = usePart((design) =>
    design.layers
      .filter((layer) => file.layers.includes(layer.id))
      .map((layer) => layer.name.trim() || layer.id)
      .join(", "),
  );
  const [width, height] = file.size_mm;
  return (
    <li className="flex flex-col overflow-hidden rounded-xl border border-line bg-sheet">
      <img
        alt={`What ${file.name} holds`}
        src={`data:image/svg+xml;utf8,${encodeURIComponent(file.picture)}`}
        className="h-44 w-full border-line border-b bg-white object-contain p-3"
      />
      <div className="flex flex-col gap-0.5 p-3">
        <p className="font-semibold [overflow-wrap:anywhere]">
          {file.name}
          {file.endings.map((one, k) => (k === 0 ? `.${one}` : `, .${one}`))}
        </p>
        <p className="text-soft text-xs">
          {length(width, unit).replace(` ${unit}`, "")} × {length(height, unit)}, {file.pieces}{" "}
          {file.pieces === 1 ? "piece" : "pieces"}
        </p>
        <p className="text-soft text-xs [overflow-wrap:anywhere]">{layers}</p>
        {file.kind === "together" && (
          <p className="text-soft text-xs">In register, to look at: layers lie over each other.</p>
        )}
        {file.mirrored && (
          <p className="flex items-center gap-1 text-soft text-xs">
            <FlipHorizontal2 size={14} aria-hidden="true" /> mirrored
          </p>
        )}
      </div>
    </li>
  );
}
