// Line up or spread out all art.

import { AlignHorizontalJustifyCenter } from "lucide-react";
import { memo } from "react";
import { type Box, type Edge, linedUp, spread } from "../document/place";
import type { Building } from "../state/building";
import { edit, useDesign } from "../state/timeline";
import { IconButton } from "../ui/Button";
import { Menu, MenuItem, MenuLine } from "../ui/Menu";

const EDGES: [Edge, string][] = [
  ["left", "Left edges"],
  ["centre", "Centres, side to side"],
  ["right", "Right edges"],
  ["top", "Top edges"],
  ["middle", "Middles, up and down"],
  ["bottom", "Bottom edges"],
];

export const LineUp = memo(function LineUp({ building: { built } }: { building: Building }) {
  // Boxes of an earlier document would put art elsewhere.
  const stale = built?.document !== useDesign();
  const boxes = new Map(
    (built?.reply.art ?? []).flatMap((one) =>
      one.bounds_mm ? [[one.id, one.bounds_mm as Box] as const] : [],
    ),
  );
  if (boxes.size < 2) return null;
  return (
    <Menu
      trigger={
        <IconButton label="Line up or spread out all art">
          <AlignHorizontalJustifyCenter size={16} />
        </IconButton>
      }
    >
      {EDGES.map(([edge, text]) => (
        <MenuItem key={edge} disabled={stale} onSelect={() => edit((design) => linedUp(design, boxes, edge))}>
          {text}
        </MenuItem>
      ))}
      <MenuLine />
      <MenuItem
        disabled={stale || boxes.size < 3}
        onSelect={() => edit((design) => spread(design, boxes, true))}
      >
        Equal gaps, side to side
      </MenuItem>
      <MenuItem
        disabled={stale || boxes.size < 3}
        onSelect={() => edit((design) => spread(design, boxes, false))}
      >
        Equal gaps, up and down
      </MenuItem>
    </Menu>
  );
});
