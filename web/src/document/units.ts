// Lengths are millimetres everywhere; only fields and labels know other units. 1 in is 25.4 mm exactly.

import type { Unit } from "./types";

const MM_PER: Record<string, number> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  inch: 25.4,
  '"': 25.4,
  "″": 25.4,
};

const NUMBER = String.raw`\d+(?:[.,]\d*)?|[.,]\d+`;
const LENGTH = new RegExp(
  String.raw`^([+-])?\s*(?:(?:(\d+)\s+)?(\d+)\s*/\s*(\d+)|(${NUMBER}))\s*(mm|cm|inch|in|"|″)?$`,
  "i",
);

export type Parsed = { value: number; signed: boolean };

/** Read "3", "1/8 in", "1 1/2 in", "0.25in", "3mm" or "2,5"; null when it is no length. Gives mm. */
export function parseLength(text: string, unit: Unit): Parsed | null {
  const parts = readNumber(text);
  return parts && { value: parts.value * (MM_PER[parts.unit || unit] ?? 1), signed: parts.signed };
}

/** Read a plain number such as a factor; null when it is none or carries a unit. */
export function parsePlain(text: string): Parsed | null {
  const parts = readNumber(text);
  return parts && parts.unit === "" ? { value: parts.value, signed: parts.signed } : null;
}

function readNumber(text: string): (Parsed & { unit: string }) | null {
  const match = LENGTH.exec(text.trim().replace(/[−–]/g, "-"));
  if (!match) return null;
  const [, sign, whole, over, under, plain, unit] = match;
  const size =
    plain !== undefined ? Number(plain.replace(",", ".")) : Number(whole ?? 0) + Number(over) / Number(under);
  if (!Number.isFinite(size)) return null;
  return { value: sign === "-" ? -size : size, signed: sign !== undefined, unit: (unit ?? "").toLowerCase() };
}

/** A number without trailing zeros. */
export function plain(value: number, decimals: number): string {
  // A little more than half a unit of the last binary place, so that 3.175 reads 3.18 and not 3.17.
  const text = (value + Math.sign(value) * 1e-9).toFixed(decimals);
  const short = decimals > 0 ? text.replace(/\.?0+$/, "") : text;
  return (short === "-0" ? "0" : short).replace("-", "−");
}

/** A length with its unit, for reading. */
export function length(mm: number, unit: Unit, decimals = unit === "mm" ? 2 : 3): string {
  return `${plain(unit === "mm" ? mm : mm / 25.4, decimals)} ${unit}`;
}

/** An area with its unit, for reading. */
export function area(mm2: number, unit: Unit): string {
  return unit === "mm" ? `${plain(mm2, mm2 < 10 ? 2 : 0)} mm²` : `${plain(mm2 / 25.4 ** 2, 2)} in²`;
}
