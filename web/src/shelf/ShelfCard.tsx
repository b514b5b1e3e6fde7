import { Copy, FileDown, MoreHorizontal, Pencil, Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { Link } from "react-router";
import type { Summary } from "../api/client";
import { readable } from "../document/readable";
import { IconButton } from "../ui/Button";
import { Menu, MenuItem, MenuLine } from "../ui/Menu";

type Props = {
  design: Summary;
  /** The time, in milliseconds. */
  now: number;
  onRename: (name: string) => void;
  onDuplicate: () => void;
  onDelete: () => void;
  picked: boolean;
  anyPicked: boolean;
  onPick: (on: boolean) => void;
};

export function ShelfCard(props: Props) {
  const { design, now, onRename, onDuplicate, onDelete, picked, anyPicked, onPick } = props;
  const [naming, setNaming] = useState(false);
  const renaming = useRef(false);
  const done = (name: string) => {
    setNaming(false);
    if (name.trim() && name !== design.name) onRename(name.trim());
  };
  const name = design.name || "Untitled";
  return (
    <li
      className={`group relative rounded-2xl border ${picked ? "border-halo" : "border-line"} bg-sheet transition-shadow hover:shadow-black/10 hover:shadow-lg`}
    >
      <input
        type="checkbox"
        aria-label={`Pick ${name}`}
        checked={picked}
        className={`absolute top-3 left-3 z-10 size-6 accent-halo ${anyPicked ? "" : "opacity-0 focus-visible:opacity-100 group-hover:opacity-100"}`}
        onChange={(event) => onPick(event.target.checked)}
      />
      <Link
        to={`/design/${design.id}`}
        aria-label={`Open ${name}`}
        className="block h-44 rounded-t-2xl bg-bench p-4 focus-visible:outline-offset-[-3px]"
      >
        {/* The revision in the address makes the picture follow every save. */}
        <img
          src={`/api/designs/${design.id}/thumbnail.svg?revision=${design.revision}`}
          alt=""
          className="size-full object-contain"
        />
      </Link>
      <div className="flex items-center gap-1 py-2 pr-2 pl-4">
        <div className="min-w-0 flex-1">
          {naming ? (
            <input
              // biome-ignore lint/a11y/noAutofocus: the maker just asked to type here
              autoFocus
              aria-label="Name of the design"
              defaultValue={design.name}
              maxLength={200}
              className="w-full rounded border border-line bg-paper px-1.5"
              onFocus={(event) => event.target.select()}
              onBlur={(event) => done(readable(event.target.value))}
              onKeyDown={(event) => {
                if (event.key === "Enter") done(readable(event.currentTarget.value));
                if (event.key === "Escape") setNaming(false);
              }}
            />
          ) : (
            <h2 className="truncate font-semibold">
              <Link to={`/design/${design.id}`} tabIndex={-1} className="hover:underline">
                {name}
              </Link>
            </h2>
          )}
          <p className="truncate text-soft text-xs">
            changed {when(design.updated, now)}
            {design.changed_by && ` by ${design.changed_by}`}
          </p>
        </div>
        <Menu
          onClosed={(event) => {
            if (!renaming.current) return;
            // The field that appears now takes the focus.
            renaming.current = false;
            event.preventDefault();
            setNaming(true);
          }}
          trigger={
            <IconButton label={`More for ${name}`}>
              <MoreHorizontal size={17} />
            </IconButton>
          }
        >
          <MenuItem
            onSelect={() => {
              renaming.current = true;
            }}
          >
            <Pencil size={15} /> Rename
          </MenuItem>
          <MenuItem onSelect={onDuplicate}>
            <Copy size={15} /> Duplicate
          </MenuItem>
          <MenuItem onSelect={() => location.assign(`/api/designs/${design.id}/file`)}>
            <FileDown size={15} /> Save as one file
          </MenuItem>
          <MenuLine />
          <MenuItem onSelect={onDelete}>
            <Trash2 size={15} /> Delete
          </MenuItem>
        </Menu>
      </div>
    </li>
  );
}

function when(utc: string, now: number): string {
  const date = new Date(utc.endsWith("Z") ? utc : `${utc}Z`);
  const minutes = Math.round((now - date.getTime()) / 60_000);
  if (minutes < 1) return "just now";
  const relative = new Intl.RelativeTimeFormat("en", { numeric: "auto" });
  if (minutes < 60) return relative.format(-minutes, "minute");
  if (minutes < 60 * 24) return relative.format(-Math.round(minutes / 60), "hour");
  if (minutes < 60 * 24 * 14) return relative.format(-Math.round(minutes / 60 / 24), "day");
  return date.toLocaleDateString("en", { day: "numeric", month: "long", year: "numeric" });
}
