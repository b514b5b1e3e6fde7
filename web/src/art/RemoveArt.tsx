// Duplicate words or a shape, or take them out of the design.

import { Copy, PenTool, Trash2 } from "lucide-react";
import { duplicate } from "../bench/useCopying";
import { isOutline, removeArt } from "../document/art";
import { sourceName } from "../document/names";
import { turnArt } from "../outlines/turning";
import { edit, usePart } from "../state/timeline";
import { sayUndoable } from "../state/undoable";
import { Button, IconButton } from "../ui/Button";

export function RemoveArt({ id }: { id: string }) {
  const name = usePart((design) => sourceName(design, id));
  const outline = usePart((design) => design.art.some((one) => one.id === id && isOutline(one)));
  const remove = () => {
    edit((design) => removeArt(design, id));
    sayUndoable(`“${name}” is taken out of all layers.`);
  };
  return (
    <>
      {!outline && (
        <Button
          look="quiet"
          className="px-2"
          title="An outline of its own, with nodes to edit; it can go back to what it is now"
          onClick={() => void turnArt(id, "outline")}
        >
          <PenTool size={15} /> <span className="max-[900px]:sr-only">To outline</span>
        </Button>
      )}
      <IconButton label="Duplicate" onClick={() => duplicate(id)}>
        <Copy size={15} />
      </IconButton>
      <IconButton label="Remove" onClick={remove}>
        <Trash2 size={15} />
      </IconButton>
    </>
  );
}
