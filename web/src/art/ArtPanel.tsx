// All that layers are made from: blocks of words and shapes, each in its own box.

import { Plus } from "lucide-react";
import { memo } from "react";
import type { ArtReply } from "../api/client";
import { addWords, isDrawing, isLettering, isOutline, isPicture } from "../document/art";
import type { Art } from "../document/types";
import { AddDrawing } from "../drawings/AddDrawing";
import { DrawingBox } from "../drawings/DrawingBox";
import { OutlineBox } from "../outlines/OutlineBox";
import { PictureBox } from "../pictures/PictureBox";
import { AddShape } from "../shapes/AddShape";
import { ShapeBox } from "../shapes/ShapeBox";
import type { Building } from "../state/building";
import { select, useSelection } from "../state/selection";
import { edit, now, usePart } from "../state/timeline";
import { Button } from "../ui/Button";
import { Failure } from "../ui/Failure";
import { enterRow } from "../ui/rows";
import { WordsBox } from "../words/WordsBox";
import { FoldedArt } from "./FoldedArt";
import { LineUp } from "./LineUp";

const NONE: ArtReply[] = [];

export const ArtPanel = memo(function ArtPanel({ building }: { building: Building }) {
  const all = usePart((design) => design.art);
  const replies = building.built?.reply.art ?? NONE;
  // The carving and the layers have to stay in sight, too.
  const carved = usePart((design) => design.carving !== null);
  const blocks = all.filter(isLettering);
  const wanted = useSelection((state) => state.art);
  const open = all.find((art) => art.id === wanted) ?? all[0];
  const add = () => {
    edit((design) => addWords(design, open?.id));
    const { id } = now().art.at(-1) as Art;
    select({ art: id, picked: null });
    enterRow(id, true);
  };
  return (
    <section
      aria-label="Words and shapes"
      className={`border-line border-b px-3 pt-1 pb-1.5 ${carved ? "slim max-h-[40vh] overflow-y-auto" : ""}`}
    >
      <div className="mb-0.5 flex flex-wrap items-center">
        <h2 className="flex-1 font-display font-semibold text-lg">
          {blocks.length === all.length ? "Words" : "Art"}
        </h2>
        <LineUp building={building} />
        <Button look="quiet" className="px-1.5!" title="Add more words" onClick={add}>
          <Plus size={15} /> Words
        </Button>
        <AddShape bounds={building.built?.reply.bounds_mm ?? null} />
        <AddDrawing />
      </div>
      <div className="flex flex-col gap-1">
        {all.map((art) => {
          const reply = replies.find((one) => one.id === art.id) ?? null;
          const words = isLettering(art);
          return (
            <div key={art.id} data-testid={`${words ? "words" : art.kind}-${art.id}`}>
              {art !== open ? (
                <FoldedArt art={art} />
              ) : words ? (
                <WordsBox art={art} reply={reply} first={art === blocks[0]} only={blocks.length === 1} />
              ) : isDrawing(art) ? (
                <DrawingBox art={art} />
              ) : isOutline(art) ? (
                <OutlineBox art={art} />
              ) : isPicture(art) ? (
                <PictureBox art={art} />
              ) : (
                <ShapeBox art={art} />
              )}
            </div>
          );
        })}
        <Failure place="art" className="-mx-3" />
        {all.length === 0 && (
          <p className="text-soft">No words yet. Add some, a shape or a drawing, to begin.</p>
        )}
      </div>
    </section>
  );
});
