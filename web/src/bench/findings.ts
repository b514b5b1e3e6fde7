// Findings as the bench lists them: what is open first, then what is good to know, then what was let be.

import type { Finding } from "../api/client";

export const isOpen = (finding: Finding) => finding.accepted === null && finding.severity !== "note";

export const keyOf = ({ kind, layer, art, at, sentence }: Finding) =>
  [kind, layer, art, at?.join(","), at ? "" : sentence].join("|");

export function listed(findings: Finding[]): Finding[] {
  const notes = findings.filter((one) => one.accepted === null && one.severity === "note");
  return [...findings.filter(isOpen), ...notes, ...findings.filter((one) => one.accepted !== null)];
}

/** How wide a view shows a finding well, in mm. */
export function extent(finding: Finding): number {
  const points = finding.outline.flat();
  if (points.length === 0) return 3;
  const [x, y] = [0, 1].map((k) => points.map((point) => point[k] ?? 0)) as [number[], number[]];
  const size = Math.max(Math.max(...x) - Math.min(...x), Math.max(...y) - Math.min(...y));
  // Close enough to see a thin place, far enough to know where one is.
  return Math.min(12, Math.max(1.5, size / 3));
}

/** Whether two findings are of the same thing, though it may have moved or grown a little. */
export function alike(one: Finding, other: Finding): boolean {
  if (one.kind !== other.kind || one.layer !== other.layer) return false;
  const [a, b] = [box(one), box(other)];
  if (!a || !b) return a === b;
  return a.every(
    ([low, high], k) => low <= (b[k]?.[1] ?? low) + NEAR_MM && high >= (b[k]?.[0] ?? high) - NEAR_MM,
  );
}

const NEAR_MM = 0.5;

/** From and to across, from and to upwards; null without a place. */
function box({ at, outline }: Finding): [number, number][] | null {
  if (!at) return null;
  const points = [at, ...outline.flat()];
  return [0, 1].map((k) => {
    const along = points.map((point) => point[k] ?? 0);
    return [Math.min(...along), Math.max(...along)];
  });
}
