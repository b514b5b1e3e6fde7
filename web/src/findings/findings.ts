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
