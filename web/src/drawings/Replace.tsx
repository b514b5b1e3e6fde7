// Take a newer file in the place of art's own.

import { FileUp } from "lucide-react";
import { useRef } from "react";
import { Button } from "../ui/Button";
import { bringIn } from "./bringIn";

type Props = { id: string; name: string; accept: string };

export function Replace({ id, name, accept }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={`Another file for ${name}`}
        accept={accept}
        onChange={(event) => {
          void bringIn([...(event.target.files ?? [])].slice(0, 1), id);
          event.target.value = "";
        }}
      />
      <Button
        look="quiet"
        className="px-1.5"
        title="Take another file in its place: its settings, place and layers stay"
        onClick={() => input.current?.click()}
      >
        <FileUp size={15} /> Replace
      </Button>
    </>
  );
}
