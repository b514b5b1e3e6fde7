// Colours of layers: a small palette to choose from, those used last, and shades that are told apart at a glance.

/** Colours of our own for what is cut most: paints, films, felts and metals. */
export const PALETTE: [string, string][] = [
  ["#1d1c1a", "Black"],
  ["#fbfaf5", "White"],
  ["#8d8880", "Grey"],
  ["#b9bdc2", "Silver"],
  ["#c9a24a", "Gold"],
  ["#b4714a", "Copper"],
  ["#d9a08e", "Rose"],
  ["#b3261e", "Red"],
  ["#e0712b", "Orange"],
  ["#eec643", "Yellow"],
  ["#6d9a3b", "Leaf green"],
  ["#24543d", "Forest green"],
  ["#1f8a8a", "Teal"],
  ["#6fb4dd", "Sky blue"],
  ["#234a86", "Blue"],
  ["#1f2a44", "Navy"],
  ["#6b4a8f", "Violet"],
  ["#d8618f", "Pink"],
];

const KEPT = "tinhalo.colours";
const MOST = 6;

/** The colours chosen by code last, the newest first. */
export function recentColours(): string[] {
  return (localStorage.getItem(KEPT) ?? "").split(" ").filter((one) => toColour(one) === one);
}

export function rememberColour(colour: string): void {
  if (PALETTE.some(([one]) => one === colour)) return;
  const others = recentColours().filter((one) => one !== colour);
  localStorage.setItem(KEPT, [colour, ...others].slice(0, MOST).join(" "));
}

/** A colour by its code as #rrggbb, where the text is one: with or without the sign, of three or six digits. */
export function toColour(text: string): string | null {
  const digits = text.trim().toLowerCase().replace(/^#/, "");
  if (/^[0-9a-f]{6}$/.test(digits)) return `#${digits}`;
  if (/^[0-9a-f]{3}$/.test(digits)) return `#${[...digits].map((digit) => digit + digit).join("")}`;
  return null;
}

/** Shades from next to a colour to well away from it, lighter ones of what is dark and darker ones of what is light. */
export function shades(colour: string, count: number): string[] {
  const parts = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16));
  const [red = 0, green = 0, blue = 0] = parts;
  const end = 0.3 * red + 0.59 * green + 0.11 * blue < 128 ? 255 : 0;
  return Array.from({ length: count }, (_, index) => {
    const share = (0.75 * (index + 1)) / Math.max(3, count);
    const mixed = parts.map((part) => Math.round(part + (end - part) * share));
    return `#${mixed.map((part) => part.toString(16).padStart(2, "0")).join("")}`;
  });
}
