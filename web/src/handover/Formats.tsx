// The file formats, ticked with what each is for; and how pictures are made.

import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { PICTURE } from "../api/facts";
import { patchPicture, patchTiling, toggleFormat } from "../document/handOver";
import { EditNumber } from "../fields/EditNumber";
import { limitsOf } from "../fields/limits";
import { edit, edits, usePart, useUnit } from "../state/timeline";
import { Choice } from "../ui/Choice";
import { Swatch } from "./Swatch";

export function Formats() {
  const chosen = usePart((design) => design.hand_over.formats);
  const { data = [], error } = useQuery({
    queryKey: ["formats"],
    queryFn: api.formats,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const order = data.map((one) => one.id);
  return (
    <fieldset className="mt-4">
      <legend className="mb-1 font-semibold">Formats</legend>
      {error && <p className="text-alarm">{error.message}</p>}
      <div className="grid grid-cols-4 gap-x-2">
        {data.map((format) => {
          const on = chosen.includes(format.id);
          return (
            <label key={format.id} title={format.use} className="flex min-h-7 items-center gap-1.5">
              <input
                type="checkbox"
                className="size-4 accent-halo"
                checked={on}
                disabled={on && chosen.length === 1}
                onChange={() => edit((design) => toggleFormat(design, format.id, order))}
              />
              {format.title}
            </label>
          );
        })}
      </div>
      {chosen.includes("tiles") && <Tiles />}
      {chosen.includes("png") && <Pictures />}
    </fieldset>
  );
}

const PAPERS = [
  {
    options: [
      { value: "a4" as const, text: "A4" },
      { value: "a3" as const, text: "A3" },
      { value: "letter" as const, text: "letter" },
      { value: "legal" as const, text: "legal" },
    ],
  },
];

function Tiles() {
  const unit = useUnit();
  const tiling = usePart((design) => design.hand_over.tiling);
  return (
    <p className="mt-1 leading-8">
      Tiles on{" "}
      <Choice
        inline
        label="Paper of tiles"
        value={tiling.paper}
        groups={PAPERS}
        onChange={(paper) => edit((design) => patchTiling(design, { paper }))}
      />{" "}
      overlap by{" "}
      <EditNumber
        inline
        label="Overlap of tiles"
        value={tiling.overlap}
        unit={unit}
        min={0}
        max={50}
        edits={(overlap) => edits((design) => patchTiling(design, { overlap }), "tiles.overlap")}
      />
    </p>
  );
}

function Pictures() {
  const picture = usePart((design) => design.hand_over.picture);
  return (
    <p className="mt-2 leading-8">
      Pictures have{" "}
      <EditNumber
        inline
        label="Dots per inch"
        value={picture.dots_per_inch}
        unit={null}
        {...limitsOf(PICTURE.ranges.dots_per_inch)}
        step={10}
        edits={(dots_per_inch) => edits((design) => patchPicture(design, { dots_per_inch }), "picture.dots")}
      />{" "}
      dots per inch, on{" "}
      <Swatch
        label="Ground of pictures"
        colour={picture.background}
        none="nothing"
        start="#ffffff"
        onChange={(background) => edit((design) => patchPicture(design, { background }), "picture.ground")}
      />
    </p>
  );
}
