// A piece of art that is not being worked on, in one line: what it says or is, its font and its size.

import { Image, Spline } from "lucide-react";
import { memo } from "react";
import { isLettering, isPicture, isShape } from "../document/art";
import { artName } from "../document/names";
import type { Art } from "../document/types";
import { length } from "../document/units";
import { useFonts } from "../layers/catalogue";
import { ShapePicture } from "../shapes/pictures";
import { select } from "../state/selection";
import { useUnit } from "../state/timeline";
import { enterRow, row } from "../ui/rows";

export const FoldedArt = memo(function FoldedArt({ art }: { art: Art }) {
  const unit = useUnit();
  const fonts = useFonts();
  const open = () => {
    select({ art: art.id, picked: null });
    enterRow(art.id);
  };
  const words = isLettering(art);
  const picture = isPicture(art);
  const what = words ? art.text.replaceAll("\n", " / ") || "no words yet" : artName(art);
  const size = words
    ? length(art.size, unit)
    : isShape(art)
      ? `${length(art.width, unit)} × ${length(art.height, unit)}`
      : art.kind;
  return (
    <button
      type="button"
      {...row(art.id)}
      aria-label={`Open ${words ? `the words “${what}”` : `the ${art.kind} ${what}`}`}
      className="flex h-7 w-full items-center gap-2 rounded-lg border border-line bg-sheet/60 px-3 text-left hover:border-soft"
      onClick={open}
    >
      {(art.kind === "drawing" || art.kind === "outline") && (
        <Spline size={16} className="shrink-0 text-halo" />
      )}
      {picture && <Image size={16} className="shrink-0 text-halo" />}
      {isShape(art) && <ShapePicture shape={art.shape} />}
      <span className={`min-w-0 flex-1 truncate ${words ? "font-display font-semibold" : "capitalize"}`}>
        {what}
      </span>
      {words && (
        <span className="max-w-28 truncate text-soft" style={{ fontFamily: `"th-${art.font}"` }}>
          {fonts.find((one) => one.id === art.font)?.family ?? art.font}
        </span>
      )}
      <span className="shrink-0 text-soft text-xs">{size}</span>
    </button>
  );
});
