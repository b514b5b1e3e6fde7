// The line that words stand on: straight, or along a curve, read as a sentence.

import { MoveHorizontal } from "lucide-react";
import type { ArtReply } from "../api/client";
import { LINE } from "../api/facts";
import { patchWords } from "../document/art";
import type { Lettering, Line } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { limitsOf } from "../fields/limits";
import { commit, edit, edits, useUnit } from "../state/timeline";
import { IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";

type Path = Line["path"] | "straight";

const PATHS: [Path, string][] = [
  ["straight", "a straight line"],
  ["arc_above", "an arc, over its top"],
  ["arc_below", "an arc, along its foot"],
  ["circle", "a circle, all round"],
  ["wave", "a wave"],
];

const OPTIONS = PATHS.map(([value, text]) => ({ value, text }));

export function WordsLine({ art, reply }: { art: Lettering; reply: ArtReply | null }) {
  const { line } = art;
  const set = (next: Line | null, gesture?: string) =>
    edits((design) => patchWords(design, art.id, { line: next }), gesture && `${art.id}.line.${gesture}`);
  const choose = (path: Path) => {
    const next = path === "straight" ? null : { ...LINE.starts, ...line, path };
    edit(set(next).change);
  };
  const measure = (field: Field, label: string, follows: number | null | undefined) =>
    line && <Measure line={line} field={field} label={label} follows={follows ?? 0} set={set} />;
  return (
    <p className="col-span-2 leading-7">
      Stands on{" "}
      <Choice
        inline
        label="Words run along"
        value={line?.path ?? "straight"}
        groups={[{ options: OPTIONS }]}
        onChange={choose}
      />
      {line && line.path !== "wave" && (
        <>, radius {measure("radius", "Radius of the line", reply?.lines?.radius_mm)}</>
      )}
      {line?.path === "wave" && (
        <>
          , {measure("height", "Height of the wave", null)} high, a wave every{" "}
          {measure("length", "Length of a wave", reply?.lines?.wave_mm)}
        </>
      )}
    </p>
  );
}

type Field = "radius" | "height" | "length";

type MeasureProps = {
  line: Line;
  field: Field;
  label: string;
  /** What it is while it follows the words. */
  follows: number;
  set: (line: Line, gesture: string) => ReturnType<typeof edits>;
};

function Measure({ line, field, label, follows, set }: MeasureProps) {
  const unit = useUnit();
  return (
    <>
      <EditNumber
        inline
        label={label}
        value={line[field] ?? follows}
        unit={unit}
        {...limitsOf(LINE.ranges[field])}
        step={unit === "mm" ? 1 : 0.05}
        edits={(value) => set({ ...line, [field]: value }, field)}
      />
      {field !== "height" && line[field] !== null && (
        <IconButton label="Follow the words" onClick={() => commit(set({ ...line, [field]: null }, field))}>
          <MoveHorizontal size={14} />
        </IconButton>
      )}
    </>
  );
}
