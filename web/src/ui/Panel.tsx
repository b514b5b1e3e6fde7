// A panel over everything else, on Radix: its title with a way to close it, and whatever it holds.

import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { IconButton } from "./Button";

type Props = {
  className: string;
  /** Whether it is opened to type into its first field. */
  typed?: boolean;
  /** Whether all of it scrolls, where it is higher than the window. */
  scrolls?: boolean;
  children: ReactNode;
};

/** Goes inside a Dialog.Root. */
export function Panel({ className, typed = false, scrolls = false, children }: Props) {
  return (
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
      <Dialog.Content
        aria-describedby={undefined}
        onOpenAutoFocus={(event) => {
          const field = (event.currentTarget as HTMLElement).querySelector("input");
          if (!typed || !field) return;
          event.preventDefault();
          field.focus();
        }}
        className={`fixed top-1/2 left-1/2 z-50 -translate-x-1/2 -translate-y-1/2 rounded-2xl border border-line bg-sheet shadow-2xl ${scrolls ? "flex flex-col overflow-hidden" : ""} ${className}`}
      >
        {scrolls ? <PanelBody>{children}</PanelBody> : children}
      </Dialog.Content>
    </Dialog.Portal>
  );
}

/** What scrolls, within the rounded corners. */
export function PanelBody({ children }: { children: ReactNode }) {
  return <div className="slim min-h-0 flex-1 overflow-y-auto p-6">{children}</div>;
}

/** The buttons under it, which stay in sight. */
export function PanelFoot({ children }: { children: ReactNode }) {
  return <div className="flex flex-wrap justify-end gap-3 border-line border-t px-6 py-3">{children}</div>;
}

/** The title, then what stands beside it, then the way out. */
export function PanelTitle({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex items-center gap-2">
      <Dialog.Title className="min-w-0 flex-1 font-display [overflow-wrap:anywhere] font-semibold text-xl">
        {title}
      </Dialog.Title>
      {children}
      <Dialog.Close asChild>
        <IconButton label="Close">
          <X size={17} />
        </IconButton>
      </Dialog.Close>
    </div>
  );
}
