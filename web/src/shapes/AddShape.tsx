// Add a shape, with a layer made from it: so it is there to be seen.

import { Plus } from "lucide-react";
import { addShape } from "../document/art";
import { shapeName } from "../document/names";
import type { Box } from "../document/place";
import type { ShapeName } from "../document/types";
import { select } from "../state/selection";
import { edit, now } from "../state/timeline";
import { Button } from "../ui/Button";
import { Menu, MenuItem } from "../ui/Menu";
import { SHAPE_NAMES, ShapePicture } from "./pictures";

export function AddShape({ bounds }: { bounds: Box | null }) {
  const add = (shape: ShapeName) => {
    const [x0, y0, x1, y1] = bounds ?? [0, 0, 0, 0];
    edit((design) => addShape(design, shape, { x: (x0 + x1) / 2, y: (y0 + y1) / 2 }));
    select({ picked: now().art.at(-1)?.id ?? null });
  };
  return (
    <Menu
      trigger={
        <Button look="quiet" className="px-1.5!" title="Add a shape, and a layer made from it">
          <Plus size={15} /> Shape
        </Button>
      }
    >
      <div className="grid w-84 grid-cols-2">
        {SHAPE_NAMES.map((shape) => (
          <MenuItem key={shape} onSelect={() => add(shape)}>
            <ShapePicture shape={shape} />
            <span className="capitalize">{shapeName(shape)}</span>
          </MenuItem>
        ))}
      </div>
    </Menu>
  );
}
