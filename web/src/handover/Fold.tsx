// A part of the hand-over that folds: its title, and how it stands now in one line.

import { type ReactNode, useState } from "react";

type Props = {
  title: string;
  /** How it stands, to be read while it is folded. */
  state: string;
  open?: boolean;
  children: ReactNode;
};

export function Fold({ title, state, open: first = false, children }: Props) {
  const [open, setOpen] = useState(first);
  return (
    <details
      className="border-line border-t"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer py-2.5 font-semibold">
        <span>{title}</span>
        <span className="ml-2 font-normal text-soft text-xs">{state}</span>
      </summary>
      {open && <div className="pb-3">{children}</div>}
    </details>
  );
}
