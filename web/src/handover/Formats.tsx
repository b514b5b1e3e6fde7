// The file formats, ticked with what each is for; and how pictures are made.

import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { PICTURE } from "../api/facts";
import { patchPicture, toggleFormat } from "../document/handOver";
import { EditNumber } from "../fields/EditNumber";
import { limitsOf } from "../fields/limits";
import { edit, edits, usePart } from "../state/timeline";
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
      {chosen.includes("png") && <Pictures />}
    </fieldset>
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
