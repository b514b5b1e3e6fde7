// Art moved until its middle is that of other art, or of a layer that is not made from it.

import { Crosshair } from "lucide-react";
import { artName, sourceName } from "../document/names";
import { type Box, centredOn } from "../document/place";
import { sourcesOf } from "../document/recipes";
import type { Art } from "../document/types";
import { useBuilt } from "../state/building";
import { edit, useDesign } from "../state/timeline";
import { Button } from "../ui/Button";
import { Menu, MenuItem } from "../ui/Menu";
import { freeOf } from "./Standing";

export function CentreOn({ art }: { art: Art }) {
  const design = useDesign();
  const { built } = useBuilt();
  const own = built?.reply.art.find((one) => one.id === art.id)?.bounds_mm;
  const others = [
    ...freeOf(design.art, art.id),
    ...design.layers.filter(({ recipe }) => !sourcesOf(design, recipe).includes(art.id)),
  ].map((one) => one.id);
  const targets = [...(built?.reply.art ?? []), ...(built?.reply.layers ?? [])].flatMap(
    ({ id, bounds_mm }) => (bounds_mm && others.includes(id) ? [{ id, box: bounds_mm as Box }] : []),
  );
  if (targets.length === 0 || !own || art.against) return null;
  return (
    <div className="col-span-2">
      <Menu
        trigger={
          <Button look="quiet" title={`The middle of ${artName(art)}, side to side and up and down`}>
            <Crosshair size={15} /> Centre on…
          </Button>
        }
      >
        {targets.map(({ id, box }) => (
          <MenuItem
            key={id}
            // Boxes of an earlier document would put it elsewhere.
            disabled={built?.document !== design}
            onSelect={() => edit((before) => centredOn(before, art.id, own as Box, box))}
          >
            {sourceName(design, id)}
          </MenuItem>
        ))}
      </Menu>
    </div>
  );
}
