// Bringing drawing files in: by a dialog, dropped on the bench, or pasted.

import { useEffect } from "react";
import { type BroughtFile, Problem } from "../api/answers";
import { api } from "../api/client";
import { paste as pasteCopied } from "../bench/useCopying";
import { addFile, isPicture, patchDrawing, patchPicture } from "../document/art";
import { placed, round } from "../document/place";
import type { Drawing } from "../document/types";
import { builtNow } from "../state/building";
import { select } from "../state/selection";
import { edit, now } from "../state/timeline";
import { attempt, fail, forget } from "../ui/Failure";
import { say } from "../ui/toast";

/** What files a dialog offers: drawings, and pictures to be traced. */
export const KINDS = ".svg,.svgz,.dxf,image/svg+xml";
export const PICTURES = ".png,.jpg,.jpeg,.webp,.tif,.tiff,.gif,image/*";
/** Between what is there and a drawing that is new, in mm. */
const GAP = 5;
const FONTS = /\.(ttf|otf|ttc|otc|woff2?)$/i;

/** Put a drawing or picture that the server has into the design, and say what of its file was left out. */
export function place(file: BroughtFile): void {
  // Beside what is there: it is moved onto the words, or set against them, from there.
  const [, low, right, high] = builtNow().built?.reply.bounds_mm ?? [0, 0, -GAP, 0];
  const middle = { x: round(right + GAP + file.width_mm / 2, 2), y: round((low + high) / 2, 2) };
  edit((design) => addFile(design, file, middle));
  const id = now().art.at(-1)?.id ?? null;
  select({ art: id, picked: id });
  if (file.told.length > 0) say(`${file.name}: ${file.told.join(" ")}`);
}

/** A picture that lies in a drawing, traced where it lies. */
export async function traceEmbedded(
  drawing: Drawing,
  picture: BroughtFile["pictures"][number],
): Promise<void> {
  const brought = await attempt("art", () => api.bringEmbedded(drawing.file, picture.number));
  if (!brought) return;
  const { place } = drawing;
  const there = placed(place, { x: picture.x_mm, y: picture.y_mm });
  const width_mm = brought.width_mm * Math.abs(place.scale_x);
  edit((design) => addFile(design, { ...brought, width_mm }, { x: round(there.x, 3), y: round(there.y, 3) }));
  const id = now().art.at(-1)?.id ?? null;
  select({ art: id, picked: id });
}

/** Read files and put each into the design; with `instead` the first takes the place of the file of that art. */
export async function bringIn(files: File[], instead?: string): Promise<void> {
  const told: string[] = [];
  forget("art");
  for (const file of files) {
    if (FONTS.test(file.name)) {
      told.push(`${file.name} is a font: drop it on the list of fonts.`);
      continue;
    }
    let hush: () => void = () => undefined;
    const slow = setTimeout(() => {
      hush = say(`Reading ${file.name}…`);
    }, 1000);
    try {
      const brought = await api.bringIn(file);
      if (instead) await replace(instead, brought);
      else place(brought);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      told.push(error.sentence);
    } finally {
      clearTimeout(slow);
      hush();
    }
  }
  if (told.length > 0) fail("art", told.join(" "));
}

/** Another file of the same kind in the place of art's own: what is set of it, and its layers, stay. */
async function replace(id: string, brought: BroughtFile): Promise<void> {
  const art = now().art.find((one) => one.id === id);
  if (!art) return;
  const named = { file: brought.id, name: brought.name };
  if (isPicture(art) && brought.kind === "picture") edit((design) => patchPicture(design, id, named));
  else if (art.kind === "drawing" && brought.kind === "drawing") {
    const chosen = await sameElements(art, brought);
    edit((design) => patchDrawing(design, id, { ...named, ...chosen }));
  } else fail("art", `${brought.name} is a ${brought.kind}, and cannot take the place of a ${art.kind}.`);
}

/** What was left out of a drawing, or brought in though it is hidden, found by its name in a newer file. */
async function sameElements(
  art: Drawing,
  newer: BroughtFile,
): Promise<Pick<Drawing, "left_out" | "brought">> {
  if (art.left_out.length + art.brought.length === 0) return { left_out: [], brought: [] };
  const before = callings(await api.file(art.file).catch(() => ({ elements: [] })));
  const numbers = new Map([...callings(newer)].map(([number, called]) => [called, number]));
  const found = (chosen: number[]) =>
    chosen.flatMap((number) => numbers.get(before.get(number) ?? "") ?? []).toSorted((a, b) => a - b);
  const left_out = found(art.left_out);
  const lost = art.left_out.length - left_out.length;
  if (lost > 0)
    say(
      `${lost} of the elements that were left out ${lost === 1 ? "is" : "are"} not in ${newer.name} by name: look at its list.`,
    );
  return { left_out, brought: found(art.brought) };
}

/** Of each element its name, and which of that name it is. */
function callings(file: Pick<BroughtFile, "elements">): Map<number, string> {
  const seen = new Map<string, number>();
  return new Map(
    file.elements.map(({ number, name }) => {
      const count = (seen.get(name) ?? 0) + 1;
      seen.set(name, count);
      return [number, `${name}\n${count}`];
    }),
  );
}

/** Files dropped anywhere on the bench, or pasted, are brought in. */
export function useDropped(): void {
  useEffect(() => {
    const holds = (event: DragEvent) => event.dataTransfer?.types.includes("Files") === true;
    const elsewhere = (event: Event) => (event.target as HTMLElement).closest?.("[role=dialog]") !== null;
    const over = (event: DragEvent) => {
      if (holds(event) && !elsewhere(event)) event.preventDefault();
    };
    const drop = (event: DragEvent) => {
      if (!holds(event) || elsewhere(event)) return;
      event.preventDefault();
      void bringIn([...(event.dataTransfer?.files ?? [])]);
    };
    const paste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      const text = event.clipboardData?.getData("text/plain") ?? "";
      const target = event.target as HTMLElement;
      if (elsewhere(event) || target.matches?.("input, textarea")) return;
      // Drawing programs put a drawing on the clipboard as its text.
      if (files.length === 0 && /^\s*(<\?xml[^>]*>\s*)?(<!--.*?-->\s*)*<svg[\s>]/s.test(text))
        files.push(new File([text], "Pasted.svg"));
      event.preventDefault();
      if (files.length > 0) void bringIn(files);
      else pasteCopied();
    };
    addEventListener("dragover", over);
    addEventListener("drop", drop);
    addEventListener("paste", paste);
    return () => {
      removeEventListener("dragover", over);
      removeEventListener("drop", drop);
      removeEventListener("paste", paste);
    };
  }, []);
}
