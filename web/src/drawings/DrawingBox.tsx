// A drawing: its size, what becomes of its lines and of what is white, and every element of its file.

import { useQuery } from "@tanstack/react-query";
import { Image, Type } from "lucide-react";
import { memo } from "react";
import { type BroughtFile, Problem } from "../api/answers";
import { api } from "../api/client";
import { PlaceFold } from "../art/PlaceFold";
import { Labelled } from "../art/Standing";
import { patchArt, patchDrawing, setText } from "../document/art";
import { drawingName } from "../document/names";
import { round } from "../document/place";
import type { Drawing } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { useBuilt } from "../state/building";
import { select } from "../state/selection";
import { edit, edits, now, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { row } from "../ui/rows";
import { KINDS, traceEmbedded } from "./bringIn";
import { DrawingPicture } from "./DrawingPicture";
import { Replace } from "./Replace";

const LINES = [
  { value: "auto" as const, text: "as the file looks" },
  { value: "painted" as const, text: "areas, as wide as drawn" },
  { value: "enclosed" as const, text: "what they go round" },
  { value: "kept" as const, text: "lines, to score or draw along" },
];

export const DrawingBox = memo(function DrawingBox({ art }: { art: Drawing }) {
  const { data: file, error } = useQuery({
    queryKey: ["file", art.file],
    queryFn: () => api.file(art.file),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return (
    <div className="flex flex-col gap-2 rounded-xl border border-line bg-sheet/60 p-2">
      <div className="flex items-center gap-2">
        {file && <DrawingPicture file={file} shown={chosen(art, file)} className="size-9" />}
        <span
          {...row(art.id)}
          tabIndex={-1}
          className="min-w-0 flex-1 truncate font-display font-semibold text-lg"
        >
          {drawingName(art)}
        </span>
        <Replace id={art.id} name={drawingName(art)} accept={KINDS} />
      </div>
      {error && (
        <p className="text-alarm">{error instanceof Problem ? error.sentence : "It cannot be shown."}</p>
      )}
      {file && <Facts art={art} file={file} />}
      <PlaceFold art={art} />
    </div>
  );
});

function Facts({ art, file }: { art: Drawing; file: BroughtFile }) {
  // What is made of it: a line that is followed counts without its pen.
  const box = useBuilt().built?.reply.art.find((one) => one.id === art.id)?.box_mm;
  const { width, height } = box
    ? { width: Math.max(box[2] - box[0], 0.1), height: Math.max(box[3] - box[1], 0.1) }
    : sizeOf(file);
  const write = (text: string) => {
    const { x, y, scale_y } = art.place;
    const under = { x, y: round(y - (height * Math.abs(scale_y)) / 2 - 14, 2) };
    edit((design) => setText(design, art.id, text, under));
    select({ art: now().art.at(-1)?.id ?? null, picked: null });
  };
  const hasLines = file.elements.some((one) => one.line_mm > 0);
  const hasWhite = file.elements.some((one) => isWhite(one.colour));
  return (
    <>
      {file.told.map((sentence) => (
        <p key={sentence} className="text-soft text-xs">
          {sentence}
        </p>
      ))}
      {file.texts.length > 0 && (
        <div className="flex flex-wrap gap-1">
          {[...new Set(file.texts)].slice(0, 5).map((text) => (
            <Button
              key={text}
              look="quiet"
              className="h-7 max-w-full px-1.5 text-xs"
              onClick={() => write(text)}
            >
              <Type size={14} className="shrink-0" /> <span className="truncate">Set “{text}” as words</span>
            </Button>
          ))}
        </div>
      )}
      {file.pictures.map((picture) => (
        <Button
          key={picture.number}
          look="quiet"
          className="h-7 self-start px-1.5 text-xs"
          onClick={() => void traceEmbedded(art, picture)}
        >
          <Image size={14} /> Trace{" "}
          {file.pictures.length === 1 ? "the picture" : `picture ${picture.number + 1}`} in it
        </Button>
      ))}
      <div className="grid grid-cols-2 gap-2">
        <Side art={art} label="Width" axis="scale_x" whole={width} />
        <Side art={art} label="Height" axis="scale_y" whole={height} />
      </div>
      {hasLines && (
        <p className="leading-7">
          Lines are{" "}
          <Choice
            inline
            label="What lines become"
            value={art.lines}
            groups={[{ options: LINES }]}
            onChange={(lines) => edit((design) => patchDrawing(design, art.id, { lines }))}
          />
        </p>
      )}
      {hasWhite && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={art.white_cuts}
            onChange={(event) =>
              edit((design) => patchDrawing(design, art.id, { white_cuts: event.target.checked }))
            }
          />
          White takes away what lies under it
        </label>
      )}
      <Elements art={art} file={file} />
    </>
  );
}

/** The width or height as it stands; the other one keeps in proportion. */
function Side({
  art,
  label,
  axis,
  whole,
}: {
  art: Drawing;
  label: string;
  axis: "scale_x" | "scale_y";
  whole: number;
}) {
  const unit = useUnit();
  const { place } = art;
  const set = (to: number) => {
    const factor = to / whole / Math.abs(place[axis]);
    const sized = { scale_x: round(place.scale_x * factor, 6), scale_y: round(place.scale_y * factor, 6) };
    return edits(
      (design) => patchArt(design, art.id, { place: { ...place, ...sized } }),
      `${art.id}.${axis}`,
    );
  };
  return (
    <Labelled text={label}>
      <EditNumber
        label={`${label} of the drawing`}
        value={round(whole * Math.abs(place[axis]), 3)}
        unit={unit}
        min={0.1}
        max={10000}
        step={unit === "mm" ? 0.5 : 0.02}
        edits={set}
      />
    </Labelled>
  );
}

/** Everything that lies in the file, hidden or not: each is brought along or left out. */
function Elements({ art, file }: { art: Drawing; file: BroughtFile }) {
  const there = new Set(chosen(art, file).map((one) => one.number));
  const hidden = file.elements.filter((one) => one.hidden).length;
  const toggle = (one: BroughtFile["elements"][number], on: boolean) =>
    edit((design) =>
      patchDrawing(design, art.id, {
        left_out: without(art.left_out, one.number, !on && !one.hidden),
        brought: without(art.brought, one.number, on && one.hidden !== ""),
      }),
    );
  return (
    <details className="group">
      <summary className="cursor-pointer text-soft text-xs hover:text-ink">
        {there.size} of {file.count} {file.count === 1 ? "element" : "elements"}
        {hidden > 0 && `, ${hidden} hidden in the file`}
      </summary>
      <ul className="slim mt-1 max-h-56 overflow-y-auto">
        {file.elements.map((one) => (
          <li key={one.number}>
            <label className="flex items-center gap-2 rounded px-1 py-0.5 hover:bg-bench">
              <input
                type="checkbox"
                checked={there.has(one.number)}
                onChange={(event) => toggle(one, event.target.checked)}
              />
              <DrawingPicture file={file} shown={[one]} className="size-6" />
              <span className="min-w-0 flex-1 truncate">{one.name}</span>
              <span className="shrink-0 text-soft text-xs">
                {one.hidden || (one.line_mm > 0 ? `line, ${one.line_mm} mm` : "")}
              </span>
            </label>
          </li>
        ))}
        {file.count > file.elements.length && (
          <li className="px-1 text-soft text-xs">
            {file.count - file.elements.length} more are not listed, and brought along.
          </li>
        )}
      </ul>
    </details>
  );
}

function chosen(art: Drawing, file: BroughtFile): BroughtFile["elements"] {
  return file.elements.filter(
    (one) => !art.left_out.includes(one.number) && (!one.hidden || art.brought.includes(one.number)),
  );
}

/** As the server has it: what takes away is none of the size. */
const isWhite = (colour: string) =>
  [1, 3, 5].every((at) => Number.parseInt(colour.slice(at, at + 2), 16) >= 250);

/** Width and height in mm, at the file's own size, until something is made of it. */
function sizeOf(file: BroughtFile): { width: number; height: number } {
  return { width: Math.max(file.width_mm, 0.1), height: Math.max(file.height_mm, 0.1) };
}

function without(numbers: number[], number: number, held: boolean): number[] {
  const rest = numbers.filter((one) => one !== number);
  return held ? [...rest, number].sort((a, b) => a - b) : rest;
}
