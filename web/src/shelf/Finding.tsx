// Finding designs on a full shelf: by their names, newest or by name first.

import { Search } from "lucide-react";
import type { Summary } from "../api/client";
import { Choice } from "../ui/Choice";

export type Order = "newest" | "name";

/** More than this many are searched rather than looked through. */
export const MANY = 20;

const ORDERS = [
  {
    options: [
      { value: "newest" as const, text: "changed last first" },
      { value: "name" as const, text: "by name" },
    ],
  },
];

type Props = { text: string; order: Order; onText: (text: string) => void; onOrder: (order: Order) => void };

export function Finding({ text, order, onText, onOrder }: Props) {
  return (
    <div className="mb-5 flex flex-wrap items-center gap-3">
      <label className="flex h-9 min-w-56 flex-1 items-center gap-2 rounded-lg border border-line bg-sheet px-3 focus-within:border-halo">
        <Search size={16} aria-hidden="true" className="text-soft" />
        <input
          type="search"
          aria-label="Find a design"
          placeholder="Find a design"
          value={text}
          className="w-full bg-transparent outline-none"
          onChange={(event) => onText(event.target.value)}
        />
      </label>
      <Choice label="Order of the shelf" value={order} groups={ORDERS} onChange={onOrder} />
    </div>
  );
}

/** The designs whose names have all words of a text, in an order; accents do not matter. */
export function found(designs: Summary[], text: string, order: Order): Summary[] {
  const words = plain(text).split(/\s+/).filter(Boolean);
  const matching = designs.filter((one) => words.every((word) => plain(one.name).includes(word)));
  return order === "newest" ? matching : matching.toSorted((a, b) => a.name.localeCompare(b.name));
}

function plain(text: string): string {
  return text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();
}
