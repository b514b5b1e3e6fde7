// The line that words stand on: straight, or along a curve, read as a sentence.

import { LINE } from "../api/facts";
import { patchWords } from "../document/art";
import type { Lettering, Line } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { limitsOf } from "../fields/limits";
import { edit, edits, useUnit } from "../state/timeline";
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

export function WordsLine({ art }: { art: Lettering }) {
  const { line } = art;
  const set = (next: Line | null, gesture?: string) =>
    edits((design) => patchWords(design, art.id, { line: next }), gesture && `${art.id}.line.${gesture}`);
  const choose = (path: Path) => {
    const next = path === "straight" ? null : { ...LINE.starts, ...line, path };
    edit(set(next).change);
  };
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
        <>
          , radius <Measure line={line} field="radius" label="Radius of the line" set={set} />
        </>
      )}
      {line?.path === "wave" && (
        <>
          , <Measure line={line} field="height" label="Height of the wave" set={set} /> high, a wave every{" "}
          <Measure line={line} field="length" label="Length of a wave" set={set} />
        </>
      )}
    </p>
  );
}

type MeasureProps = {
  line: Line;
  field: "radius" | "height" | "length";
  label: string;
  set: (line: Line, gesture: string) => ReturnType<typeof edits>;
};

function Measure({ line, field, label, set }: MeasureProps) {
  const unit = useUnit();
  return (
    <EditNumber
      inline
      label={label}
      value={line[field]}
      unit={unit}
      {...limitsOf(LINE.ranges[field])}
      step={unit === "mm" ? 1 : 0.05}
      edits={(value) => set({ ...line, [field]: value }, field)}
    />
  );
}
