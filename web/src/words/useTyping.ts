// Typing into a block of words, wherever its field stands: what was set for single letters stays with them.

import { type ChangeEvent, type RefObject, useEffect, useRef } from "react";
import { retextWords } from "../document/art";
import { readable } from "../document/readable";
import { edit, endGesture } from "../state/timeline";

/** What a text field of a block needs to change it; one go of typing is one undo. */
export function useTyping(id: string, field: RefObject<HTMLTextAreaElement | null>) {
  const selected = useSelectionBefore(field);
  return {
    maxLength: 20_000,
    spellCheck: false,
    onChange: ({ target }: ChangeEvent<HTMLTextAreaElement>) =>
      edit(
        (design) => retextWords(design, id, readable(target.value), target.selectionStart, selected.current),
        `${id}.text`,
      ),
    onBlur: endGesture,
  };
}

/** What was selected in a text field before its last input: tells which letters an edit replaced. */
function useSelectionBefore(field: RefObject<HTMLTextAreaElement | null>) {
  const selected = useRef<{ start: number; end: number } | null>(null);
  useEffect(() => {
    const box = field.current;
    const note = () => {
      if (box) selected.current = { start: box.selectionStart, end: box.selectionEnd };
    };
    box?.addEventListener("beforeinput", note);
    return () => box?.removeEventListener("beforeinput", note);
  }, [field]);
  return selected;
}
