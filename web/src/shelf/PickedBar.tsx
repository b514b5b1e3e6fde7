// What can be done with the picked designs together.

import { Download, Folder, FolderPlus, Trash2 } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button";
import { Menu, MenuItem, MenuLine } from "../ui/Menu";

/** A folder's name at most. */
const MOST = 80;

type Props = {
  count: number;
  /** The folders there are; null where the shelf needs none yet. */
  folders: string[] | null;
  busy: boolean;
  /** What puts them on one page. */
  sheet: ReactNode;
  onPack: () => void;
  onDelete: () => void;
  onPutInto: (folder: string) => void;
  onPickNone: () => void;
};

export function PickedBar({ count, folders, busy, sheet, onPack, onDelete, onPutInto, onPickNone }: Props) {
  const [naming, setNaming] = useState(false);
  return (
    <section
      aria-label="Picked designs"
      className="sticky bottom-4 z-10 mx-auto mt-6 flex w-fit flex-wrap items-center gap-2 rounded-xl border border-line bg-sheet p-2 pl-4 shadow-black/15 shadow-xl"
    >
      <span role="status">{count === 1 ? "1 picked" : `${count} picked`}</span>
      <Button onClick={onPack}>
        <Download size={15} /> Cut packs
      </Button>
      {sheet}
      {folders && !naming && (
        <Menu
          trigger={
            <Button>
              <Folder size={15} /> Put into…
            </Button>
          }
        >
          {folders.map((folder) => (
            <MenuItem key={folder} onSelect={() => onPutInto(folder)}>
              <Folder size={15} /> {folder}
            </MenuItem>
          ))}
          {folders.length > 0 && (
            <>
              <MenuItem onSelect={() => onPutInto("")}>No folder</MenuItem>
              <MenuLine />
            </>
          )}
          <MenuItem onSelect={() => setNaming(true)}>
            <FolderPlus size={15} /> New folder…
          </MenuItem>
        </Menu>
      )}
      {naming && (
        <form
          className="flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            const name = String(new FormData(event.currentTarget).get("folder") ?? "").trim();
            if (name) onPutInto(name);
            setNaming(false);
          }}
        >
          <input
            // biome-ignore lint/a11y/noAutofocus: a new folder was just asked for
            autoFocus
            name="folder"
            aria-label="Name of the new folder"
            maxLength={MOST}
            className="h-8 w-44 rounded-lg border border-line bg-paper px-2"
            onKeyDown={(event) => event.key === "Escape" && setNaming(false)}
          />
          <Button type="submit">Put into it</Button>
        </form>
      )}
      <Button onClick={onDelete} disabled={busy}>
        <Trash2 size={15} /> Delete
      </Button>
      <Button look="quiet" onClick={onPickNone}>
        Pick none
      </Button>
    </section>
  );
}
