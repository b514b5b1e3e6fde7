// Duplicate words or a shape, or take them out of the design.

import { Copy, Trash2 } from "lucide-react";
import { duplicate } from "../bench/useCopying";
import { removeArt } from "../document/art";
import { sourceName } from "../document/names";
import { edit, usePart } from "../state/timeline";
import { sayUndoable } from "../state/undoable";
import { Button } from "../ui/Button";

export function RemoveArt({ id }: { id: string }) {
  const name = usePart((design) => sourceName(design, id));
  const remove = () => {
    edit((design) => removeArt(design, id));
    sayUndoable(`“${name}” is taken out of all layers.`);
  };
  return (
    <>
      <Button look="quiet" className="px-2" onClick={() => duplicate(id)}>
        <Copy size={15} /> Duplicate
      </Button>
      <Button look="quiet" className="px-2" onClick={remove}>
        <Trash2 size={15} /> Remove
      </Button>
    </>
  );
}
