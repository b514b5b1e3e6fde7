// Fonts of the maker's own, brought in from files, folders, or those that the computer has.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Font, Problem } from "../api/client";

/** What the browser tells of a font of the computer (Local Font Access, a draft of the W3C's WICG). */
export type LocalFont = {
  family: string;
  fullName: string;
  postscriptName: string;
  blob: () => Promise<Blob>;
};

/** The fonts of the computer; null where the browser does not offer them. */
export const localFonts: (() => Promise<LocalFont[]>) | null =
  (window as { queryLocalFonts?: () => Promise<LocalFont[]> }).queryLocalFonts?.bind(window) ?? null;

/** Adds fonts and takes the first of them; what was wrong with any is kept, and then the dialog has to stay. */
export function useAddFonts(onPick: (font: string, stay: boolean) => void) {
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string[]>([]);
  const add = async (files: File[]) => {
    if (files.length === 0) return;
    setBusy(true);
    setWrong([]);
    const fonts: Font[] = [];
    const sentences: string[] = [];
    for (const file of files) {
      try {
        fonts.push(...(await api.addFont(file)));
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        sentences.push(error.sentence);
      }
    }
    await client.invalidateQueries({ queryKey: ["fonts"] });
    setBusy(false);
    setWrong(sentences);
    const [first] = fonts;
    if (first) onPick(first.id, sentences.length > 0);
  };
  return { add, busy, wrong };
}

/** The files that were dropped, those in folders, too. */
export async function droppedFiles(items: DataTransferItemList): Promise<File[]> {
  // The list is emptied once the event is over.
  const entries = [...items].flatMap((item) => item.webkitGetAsEntry() ?? []);
  return (await Promise.all(entries.map(filesIn))).flat();
}

async function filesIn(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile)
    return [await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail))];
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const files: File[] = [];
  // It gives a hundred at a time.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, fail) => reader.readEntries(done, fail));
    if (some.length === 0) return files.filter(({ name }) => FONT_FILE.test(name));
    files.push(...(await Promise.all(some.map(filesIn))).flat());
  }
}

/** In a folder with licences and pictures only these are meant. */
const FONT_FILE = /\.(ttf|otf|ttc|otc|woff2?)$/i;
