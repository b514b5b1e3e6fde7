// The picture with its outline over it; pressing on a colour takes all that is like it for background.

import { type PointerEvent, useRef } from "react";
import type { Traced } from "../api/answers";
import type { TracedPicture } from "../document/types";

type Props = { art: TracedPicture; traced: Traced | null; busy: boolean; onPick: (colour: string) => void };

export function TracePreview({ art, traced, busy, onPick }: Props) {
  const image = useRef<HTMLImageElement>(null);
  const pick = (event: PointerEvent) => {
    const shown = image.current;
    if (!shown?.naturalWidth) return;
    const box = shown.getBoundingClientRect();
    const canvas = document.createElement("canvas");
    canvas.width = canvas.height = 1;
    const pen = canvas.getContext("2d");
    const x = Math.floor(((event.clientX - box.left) / box.width) * shown.naturalWidth);
    const y = Math.floor(((event.clientY - box.top) / box.height) * shown.naturalHeight);
    pen?.drawImage(shown, x, y, 1, 1, 0, 0, 1, 1);
    const [red = 255, green = 255, blue = 255, alpha = 0] = pen?.getImageData(0, 0, 1, 1).data ?? [];
    const part = (value: number) =>
      Math.round((value * alpha + 255 * (255 - alpha)) / 255)
        .toString(16)
        .padStart(2, "0");
    onPick(`#${part(red)}${part(green)}${part(blue)}`);
  };
  return (
    <button
      type="button"
      aria-label="The picture with its outline. Press on a colour to take all that is like it for background"
      title="Press on a colour to take all that is like it for background"
      aria-busy={busy}
      className="relative block max-h-64 w-full overflow-hidden rounded-lg border border-line bg-white"
      onPointerUp={pick}
    >
      <img
        ref={image}
        alt=""
        src={`/api/files/${art.file}/picture`}
        className="mx-auto block max-h-64 max-w-full opacity-45"
      />
      {traced && (
        <svg
          aria-hidden="true"
          viewBox={`0 0 ${traced.width_px} ${traced.height_px}`}
          className="pointer-events-none absolute inset-0 h-full w-full"
        >
          <path
            data-testid="trace-outline"
            d={traced.path}
            className="fill-glow/25 stroke-halo"
            strokeWidth={1.5}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
      )}
    </button>
  );
}
