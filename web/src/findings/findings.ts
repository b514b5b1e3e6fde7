// Findings as the bench lists them: by their causes.

import type { Cause, Finding } from "../api/answers";

export const keyOf = ({ kind, layer, art, at, sentence }: Finding) =>
  [kind, layer, art, at?.join(","), at ? "" : sentence].join("|");

/** A cause with its findings, the worst first. */
export type Told = { cause: Cause; places: Finding[] };

/** What there is to look at by its causes: what is open first, then what is good to know, then what was let be. */
export const told = (built: { findings: Finding[]; causes: Cause[] } | null): Told[] =>
  (built?.causes ?? []).map((cause) => ({
    cause,
    places: cause.findings.map((k) => built?.findings[k] as Finding),
  }));

export const isOpenCause = (cause: Cause) => !cause.accepted && cause.severity !== "note";

/** How wide a view shows a finding well, in mm. */
export function extent(finding: Finding): number {
  const points = finding.outline.flat();
  if (points.length === 0) return 3;
  const [x, y] = [0, 1].map((k) => points.map((point) => point[k] ?? 0)) as [number[], number[]];
  const size = Math.max(Math.max(...x) - Math.min(...x), Math.max(...y) - Math.min(...y));
  // Close enough to see a thin place, far enough to know where one is.
  return Math.min(12, Math.max(1.5, size / 3));
}
