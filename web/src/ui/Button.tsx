// The app's buttons: plain, quiet (no frame) and main (the one thing to do here).

import type { ComponentProps } from "react";

type Look = "plain" | "quiet" | "main";

const LOOKS: Record<Look, string> = {
  plain: "border border-line bg-sheet hover:border-soft",
  quiet: "text-soft hover:bg-bench hover:text-ink",
  main: "bg-halo font-semibold text-halo-ink hover:brightness-110",
};

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ComponentProps<"button"> & { look?: Look }) {
  return (
    <button
      type="button"
      className={`inline-flex h-8 items-center justify-center gap-1.5 whitespace-nowrap rounded-lg px-3 disabled:cursor-default disabled:opacity-40 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}

/** A square button with a picture; `label` is read out and shown on hover. */
export function IconButton({ label, className = "", ...rest }: ComponentProps<"button"> & { label: string }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className={`inline-flex size-8 shrink-0 items-center justify-center rounded-lg text-soft hover:bg-bench hover:text-ink disabled:cursor-default disabled:opacity-35 ${className}`}
      {...rest}
    />
  );
}
