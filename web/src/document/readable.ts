// What is typed or pasted, without control characters: nobody sees them, no file may hold them, and the server refuses.

/** Text with new lines and tabs and no other control characters. */
export function readable(text: string): string {
  return text.replace(/\r\n?/g, "\n").replace(/[^\P{Cc}\n\t]/gu, "");
}
