// Rows that fold: arrow keys walk through them, Enter opens one and goes into it.

import type { KeyboardEvent } from "react";

/** What marks the part of a row, folded or open, that has the focus when it is walked to. */
export const row = (id: string) => ({ "data-row": id });

/** Go to the row before or after the one with the focus, for the element around all rows. */
export function walkRows(event: KeyboardEvent<HTMLElement>): void {
  const way = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
  const from = event.target as HTMLElement;
  if (!way || !from.dataset.row || event.altKey || event.shiftKey || event.ctrlKey || event.metaKey) return;
  if (from instanceof HTMLTextAreaElement && !atEnd(from, way)) return;
  const rows = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-row]")];
  const next = rows[rows.indexOf(from) + way];
  if (!next) return;
  event.preventDefault();
  next.focus();
}

/** Go into a row once it is open; into one that is new with its text selected, to be typed over. */
export function enterRow(id: string, fresh = false): void {
  requestAnimationFrame(() => {
    const row = document.querySelector<HTMLElement>(`[data-row="${CSS.escape(id)}"]`);
    row?.focus();
    if (fresh && row instanceof HTMLTextAreaElement) row.select();
  });
}

/** Whether the caret can go no further that way. */
function atEnd({ selectionStart, selectionEnd, value }: HTMLTextAreaElement, way: number): boolean {
  return selectionStart === selectionEnd && selectionStart === (way < 0 ? 0 : value.length);
}
