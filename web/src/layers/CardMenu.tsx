// What else can be done with a layer: its material, picking, layers made from it, copies.

import {
  ClipboardCopy,
  ClipboardPaste,
  Copy,
  MoreHorizontal,
  MousePointerClick,
  Plus,
  Ruler,
  Trash2,
} from "lucide-react";
import { memo } from "react";
import { canPaste, copy, paste } from "../bench/useCopying";
import { addBorderLine, addEngraved, addPlacingLine, duplicateLayer, removeLayer } from "../document/layers";
import type { Design } from "../document/types";
import { select } from "../state/selection";
import { edit } from "../state/timeline";
import { sayUndoable } from "../state/undoable";
import { IconButton } from "../ui/Button";
import { Menu, MenuItem, MenuLabel, MenuLine } from "../ui/Menu";

const ADDITIONS: [string, (design: Design, id: string) => Design][] = [
  ["Engraved area inside a rim", addEngraved],
  ["Placing line that hides under it", addPlacingLine],
  ["Border line inside its edge", addBorderLine],
];

export const CardMenu = memo(function CardMenu({ layer, name }: { layer: string; name: string }) {
  const remove = () => {
    edit((design) => removeLayer(design, layer));
    sayUndoable(`The layer “${name}” is gone.`);
  };
  return (
    <Menu
      trigger={
        <IconButton label={`More for ${name}`} className="size-7">
          <MoreHorizontal size={16} />
        </IconButton>
      }
    >
      <MenuItem onSelect={() => select({ limiting: layer })}>
        <Ruler size={15} /> Material and its limits…
      </MenuItem>
      <MenuItem onSelect={() => select({ picking: layer, picked: null })}>
        <MousePointerClick size={15} /> Pick pieces and holes
      </MenuItem>
      <MenuLine />
      <MenuLabel>Add from this layer</MenuLabel>
      {ADDITIONS.map(([text, make]) => (
        <MenuItem key={text} onSelect={() => edit((design) => make(design, layer))}>
          <Plus size={15} /> {text}
        </MenuItem>
      ))}
      <MenuItem onSelect={() => select({ stepping: layer })}>
        <Plus size={15} /> Steps under it…
      </MenuItem>
      <MenuLine />
      <MenuItem onSelect={() => edit((design) => duplicateLayer(design, layer))}>
        <Copy size={15} /> Duplicate
      </MenuItem>
      <MenuItem onSelect={() => copy(layer)}>
        <ClipboardCopy size={15} /> Copy, also for other designs
      </MenuItem>
      <PasteItem />
      <MenuLine />
      <MenuItem onSelect={remove}>
        <Trash2 size={15} /> Delete
      </MenuItem>
    </Menu>
  );
});

/** There as long as the menu is open: whether something is copied is looked up each time. */
function PasteItem() {
  return (
    <MenuItem disabled={!canPaste()} onSelect={paste}>
      <ClipboardPaste size={15} /> Paste
    </MenuItem>
  );
}
