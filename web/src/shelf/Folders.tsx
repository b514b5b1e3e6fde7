// The folders of a full shelf: which of them is shown.

import { ToggleGroup } from "radix-ui";
import type { Summary } from "../api/client";

/** Which folder is shown, by its name; none for all designs. */
export type Shown = string | null;

/** The folders there are, by name. */
export function foldersOf(designs: Summary[]): string[] {
  const names = new Set(designs.map((one) => one.folder).filter(Boolean));
  return [...names].toSorted((a, b) => a.localeCompare(b));
}

type Props = { designs: Summary[]; shown: Shown; onShow: (folder: Shown) => void };

export function Folders({ designs, shown, onShow }: Props) {
  const count = (folder: string) => designs.filter((one) => one.folder === folder).length;
  const choices: [string, string, number][] = [
    ["all", "All", designs.length],
    ...foldersOf(designs).map((one): [string, string, number] => [`in ${one}`, one, count(one)]),
    ["in ", "In no folder", count("")],
  ];
  return (
    <ToggleGroup.Root
      type="single"
      aria-label="Folder"
      value={shown === null ? "all" : `in ${shown}`}
      onValueChange={(next) => next && onShow(next === "all" ? null : next.slice("in ".length))}
      className="mb-5 flex flex-wrap gap-1.5"
    >
      {choices.map(([value, text, many]) => (
        <ToggleGroup.Item
          key={value}
          value={value}
          className="max-w-60 truncate rounded-full border border-line bg-sheet px-3 py-1 text-soft hover:text-ink data-[state=on]:border-halo data-[state=on]:font-semibold data-[state=on]:text-ink"
        >
          {text} <span className="font-normal">{many}</span>
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
