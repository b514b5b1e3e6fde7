// Words are typed into on the drawing: a field whose letters lie on the outlines, so that only its caret is seen. Where
// words run along a line or fill a shape, no field of a browser does: there it stands over them with letters of its own.

import { type CSSProperties, type KeyboardEvent, useEffect, useRef, useState } from "react";
import { typedInto } from "../bench/useUndoKeys";
import { isLettering } from "../document/art";
import type { Box } from "../document/place";
import type { Lettering } from "../document/types";
import type { View } from "../stage/view";
import { useBuilt } from "../state/building";
import { select, useSelection } from "../state/selection";
import { usePart } from "../state/timeline";
import { useTyping } from "./useTyping";

type Props = { boxes: Map<string, Box>; view: View };

export function TypeHere({ boxes, view }: Props) {
  const typing = useSelection((state) => state.typing);
  const words = usePart((design) => design.art.filter(isLettering).find((one) => one.id === typing));
  return words ? <Field key={words.id} words={words} box={boxes.get(words.id) ?? null} view={view} /> : null;
}

function Field({ words, box, view }: { words: Lettering; box: Box | null; view: View }) {
  const field = useRef<HTMLTextAreaElement>(null);
  const typed = useTyping(words.id, field);
  const straight = words.line === null && words.into === null;
  const { built } = useBuilt();
  const distance = built?.reply.art.find((one) => one.id === words.id)?.lines?.distance_mm ?? words.size;
  const style = useStyle(words, view, straight, box, distance);
  useEffect(() => field.current?.select(), []);
  const keys = (event: KeyboardEvent) => {
    event.stopPropagation();
    const ends = event.key === "Escape" || (event.key === "Enter" && (event.ctrlKey || event.metaKey));
    if (!ends) return;
    event.preventDefault();
    select({ typing: null });
  };
  return (
    <textarea
      ref={field}
      aria-label="The words, on the drawing. Escape ends typing"
      data-testid="typing"
      {...typedInto(`${words.id}.text`)}
      value={words.text}
      wrap="off"
      {...typed}
      style={style}
      className={`absolute z-10 resize-none overflow-hidden whitespace-pre rounded-none p-0 caret-ink outline-1 outline-halo outline-dashed outline-offset-8 selection:bg-glow/40 ${straight ? "bg-transparent text-transparent selection:text-transparent" : "bg-sheet/90 text-center text-ink"}`}
      onBlur={() => {
        typed.onBlur();
        select({ typing: null });
      }}
      onKeyDown={keys}
      // The stage would pan.
      onPointerDown={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
    />
  );
}

/** Where a field must stand, and how its letters be set, to lie on the outlines; or over words that are not straight. */
function useStyle(
  words: Lettering,
  view: View,
  straight: boolean,
  box: Box | null,
  distance: number,
): CSSProperties {
  const family = `th-${words.font}`;
  const [, arrived] = useState(0);
  useEffect(() => {
    let gone = false;
    // Until then the measures are those of another font.
    document.fonts.load(`16px "${family}"`).then(
      () => gone || arrived((count) => count + 1),
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [family]);
  const { place } = words;
  const lines = words.text.split("\n");
  if (!straight) {
    const [x0, y0, x1, y1] = box ?? [0, 0, 0, 0];
    return {
      left: view.x + ((x0 + x1) / 2) * view.scale,
      top: view.y - ((y0 + y1) / 2) * view.scale,
      width: `${Math.max(8, ...lines.map((line) => line.length + 2))}ch`,
      height: `${1.4 * lines.length}em`,
      fontSize: 26,
      lineHeight: 1.4,
      transform: "translate(-50%, -50%)",
    };
  }
  const size = words.size * view.scale;
  const { widest, ascent, descent } = measured(lines, `${size}px "${family}"`);
  const spaced = Math.max(...lines.map((line) => line.length)) * words.letter_spacing * view.scale;
  const width = Math.max(widest + spaced, 0) + 2 * size;
  const step = distance * view.scale;
  // A line's letters stand in the middle of its height.
  const baseline = (step - ascent - descent) / 2 + ascent;
  const left = { left: 0, center: -width / 2, right: -width }[words.align];
  const turned = `rotate(${-place.rotate}deg) scale(${place.scale_x}, ${place.scale_y})`;
  return {
    left: view.x + place.x * view.scale + left,
    top: view.y - place.y * view.scale - baseline,
    width,
    height: step * lines.length,
    fontFamily: `"${family}"`,
    fontSize: size,
    lineHeight: `${step}px`,
    letterSpacing: words.letter_spacing * view.scale,
    textAlign: words.align,
    transform: turned,
    transformOrigin: `${-left}px ${baseline}px`,
  };
}

let pen: CanvasRenderingContext2D | null = null;

/** How wide the widest of some lines is, and how far the font reaches over and under its line, in pixels. */
function measured(lines: string[], font: string): { widest: number; ascent: number; descent: number } {
  pen ??= document.createElement("canvas").getContext("2d");
  if (!pen) return { widest: 0, ascent: 0, descent: 0 };
  pen.font = font;
  const { fontBoundingBoxAscent: ascent, fontBoundingBoxDescent: descent } = pen.measureText("x");
  return { widest: Math.max(0, ...lines.map((line) => pen?.measureText(line).width ?? 0)), ascent, descent };
}
