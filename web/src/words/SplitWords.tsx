// A block of words as one block for each of its lines or words.

import { Rows3 } from "lucide-react";
import { api } from "../api/client";
import { splitInto } from "../document/copying";
import type { Lettering } from "../document/types";
import { edit, now } from "../state/timeline";
import { unlessChanged } from "../state/unlessChanged";
import { IconButton } from "../ui/Button";
import { Menu, MenuItem } from "../ui/Menu";

export function SplitWords({ art }: { art: Lettering }) {
  const lines = art.text.trim().split("\n").length;
  const words = art.text.trim().split(/\s+/).length;
  // On a curve, or stretched into a shape, a part would stand elsewhere than in the whole.
  const byWord = words > lines && !art.into;
  if (art.line || (lines < 2 && !byWord)) return null;
  const split = (by: "line" | "word") =>
    unlessChanged(
      () => api.splitWords({ document: now(), art: art.id, by }),
      (blocks) => edit((before) => splitInto(before, art.id, blocks as Lettering[])),
    );
  return (
    <Menu
      trigger={
        <IconButton label="Split into blocks">
          <Rows3 size={16} />
        </IconButton>
      }
    >
      {lines > 1 && <MenuItem onSelect={() => void split("line")}>A block for each line</MenuItem>}
      {byWord && <MenuItem onSelect={() => void split("word")}>A block for each word</MenuItem>}
    </Menu>
  );
}
