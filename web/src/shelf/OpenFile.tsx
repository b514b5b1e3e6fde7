// Open a design from a file of its own, or begin one from a drawing or picture: by a dialog, or dropped on the shelf.

import { FolderOpen } from "lucide-react";
import { useEffect, useRef } from "react";
import { KINDS, PICTURES } from "../drawings/bringIn";
import { Button } from "../ui/Button";

export function OpenFile({ onOpen, busy }: { onOpen: (file: File) => void; busy: boolean }) {
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const over = (event: DragEvent) => {
      if (event.dataTransfer?.types.includes("Files")) event.preventDefault();
    };
    const drop = (event: DragEvent) => {
      const file = event.dataTransfer?.files[0];
      if (!file) return;
      event.preventDefault();
      onOpen(file);
    };
    addEventListener("dragover", over);
    addEventListener("drop", drop);
    return () => {
      removeEventListener("dragover", over);
      removeEventListener("drop", drop);
    };
  }, [onOpen]);
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        aria-label="A design's file"
        accept={`.zip,.json,.pdf,.png,${KINDS},${PICTURES}`}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onOpen(file);
          event.target.value = "";
        }}
      />
      <Button
        look="quiet"
        disabled={busy}
        title="A design saved as one file, its JSON, a proof (PDF or PNG), or a drawing or picture to begin from; or drop it here"
        onClick={() => input.current?.click()}
      >
        <FolderOpen size={15} /> <span className="max-sm:sr-only">{busy ? "Opening…" : "Open a file"}</span>
      </Button>
    </>
  );
}
