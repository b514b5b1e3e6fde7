// Take words or a shape out of the design.

import { Trash2 } from "lucide-react";
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
    <Button look="quiet" onClick={remove}>
      <Trash2 size={15} /> Remove
    </Button>
  );
}
