// A panel over everything else, on Radix: its title with a way to close it, and whatever it holds.

import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { IconButton } from "./Button";

type Props = { className: string; children: ReactNode };

/** Goes inside a Dialog.Root. */
export function Panel({ className, children }: Props) {
  return (
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
      <Dialog.Content
        aria-describedby={undefined}
        className={`fixed top-1/2 left-1/2 z-50 -translate-x-1/2 -translate-y-1/2 rounded-2xl border border-line bg-sheet shadow-2xl ${className}`}
      >
        {children}
      </Dialog.Content>
    </Dialog.Portal>
  );
}

/** The title, then what stands beside it, then the way out. */
export function PanelTitle({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex items-center gap-2">
      <Dialog.Title className="flex-1 font-display font-semibold text-xl">{title}</Dialog.Title>
      {children}
      <Dialog.Close asChild>
        <IconButton label="Close">
          <X size={17} />
        </IconButton>
      </Dialog.Close>
    </div>
  );
}
