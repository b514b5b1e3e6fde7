// Add a drawing: one of those that come with the app, or a file of one's own.

import { useQuery } from "@tanstack/react-query";
import { FolderOpen, Plus } from "lucide-react";
import { useRef } from "react";
import { api } from "../api/client";
import { Button } from "../ui/Button";
import { Menu, MenuItem, MenuLabel, MenuLine } from "../ui/Menu";
import { bringIn, KINDS, PICTURES, place } from "./bringIn";
import { DrawingPicture } from "./DrawingPicture";

export function AddDrawing() {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Drawing and picture files"
        accept={`${KINDS},${PICTURES}`}
        onChange={(event) => {
          void bringIn([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <Menu
        trigger={
          <Button
            look="quiet"
            className="px-1.5!"
            title="Add a drawing, and a layer made from it; or drop its file on the bench"
          >
            <Plus size={15} /> Drawing
          </Button>
        }
      >
        <MenuItem onSelect={() => input.current?.click()}>
          <FolderOpen size={15} /> Bring in a file: SVG, DXF, or a picture to trace…
        </MenuItem>
        <MenuLine />
        <MenuLabel>Drawings for you</MenuLabel>
        <Shipped />
      </Menu>
    </>
  );
}

function Shipped() {
  const { data = [] } = useQuery({
    queryKey: ["shipped-drawings"],
    queryFn: api.shippedDrawings,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <div className="grid w-64 grid-cols-2">
      {data.map((file) => (
        <MenuItem key={file.id} onSelect={() => place(file)}>
          <DrawingPicture file={file} shown={file.elements} className="size-8" />
          <span className="capitalize">{file.id}</span>
        </MenuItem>
      ))}
    </div>
  );
}
