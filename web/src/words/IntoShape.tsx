// The shape that words are set into: how they are stretched, how deep they hold, and the layer of frame and words.

import type { ArtReply } from "../api/client";
import { INTO } from "../api/facts";
import { freeOf } from "../art/Standing";
import { framed, intoShape, isLettering, patchWords } from "../document/art";
import { artName, sourceName } from "../document/names";
import { named, sourcesOf } from "../document/recipes";
import type { Into, Lettering } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { limitsOf } from "../fields/limits";
import { useBuilt } from "../state/building";
import { edit, edits, useDesign } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";

const NOTHING = "nothing";

const FITS: [Into["fit"], string][] = [
  ["width", "its width"],
  ["height", "its height"],
  ["both", "its width and height"],
  ["size", "its width, in proportion"],
];

export function IntoShape({ art, reply }: { art: Lettering; reply: ArtReply | null }) {
  const design = useDesign();
  const replies = useBuilt().built?.reply.art ?? [];
  const shapes = freeOf(design.art, art.id).filter((one) => !isLettering(one));
  if (shapes.length === 0 || art.against) return null;
  const { into } = art;
  const set = (next: Into, gesture?: string) =>
    edits((d) => patchWords(d, art.id, { into: next }), gesture && `${art.id}.into.${gesture}`);
  const choose = (id: string) => {
    const frame = replies.find((one) => one.id === id)?.bounds_mm ?? null;
    edit((d) => intoShape(d, art.id, id === NOTHING ? null : id, reply?.bounds_mm ?? null, frame));
  };
  const made =
    into &&
    design.layers.some(
      ({ recipe }) => named(recipe).includes(art.id) && sourcesOf(design, recipe).includes(into.art),
    );
  const length = (field: "depth" | "frame", label: string, value: number) => (
    <EditNumber
      inline
      label={label}
      value={value}
      unit={design.unit}
      {...limitsOf(INTO.ranges[field])}
      edits={(to) => set({ ...INTO.starts, ...into, art: into?.art ?? "", [field]: to }, field)}
    />
  );
  return (
    <div className="col-span-2">
      <p className="leading-7">
        Set into{" "}
        <Choice
          inline
          label="Shape they are set into"
          value={into?.art ?? NOTHING}
          groups={[
            {
              options: [
                { value: NOTHING, text: "nothing" },
                ...shapes.map((one) => ({ value: one.id, text: `the ${artName(one)}` })),
              ],
            },
          ]}
          onChange={choose}
        />
        {into && (
          <>
            , stretched to{" "}
            <Choice
              inline
              label="Stretched to"
              value={into.fit}
              groups={[{ options: FITS.map(([value, text]) => ({ value, text })) }]}
              onChange={(fit) => edit(set({ ...into, fit }).change)}
            />
            , {length("depth", "Depth in the frame", into.depth)} deep into{" "}
            {made ? "its frame" : <>a frame {length("frame", "Width of the frame", into.frame)} wide</>}
          </>
        )}
      </p>
      {into && !made && (
        <Button onClick={() => edit((d) => framed(d, art.id))}>
          Add a layer of the {sourceName(design, into.art)}'s frame and the words
        </Button>
      )}
    </div>
  );
}
