// Findings that are let be, and asked about again.

import type { Finding } from "../api/client";
import type { Design } from "./types";

/** The design with a finding let be, with the reason why. */
export function accepted(design: Design, { kind, layer, spot }: Finding, note: string): Design {
  return { ...design, accepted: [...design.accepted, { kind, layer, spot, note }] };
}

/** The design with a finding asked about again: the acceptance nearest to its place goes. */
export function reopened(design: Design, { kind, layer, spot }: Finding): Design {
  const away = (one: Design["accepted"][number]) =>
    one.spot && spot && one.spot.art === spot.art && one.spot.part === spot.part
      ? Math.hypot(one.spot.x - spot.x, one.spot.y - spot.y)
      : Number.MAX_VALUE;
  const [nearest] = design.accepted
    .filter((one) => one.kind === kind && one.layer === layer)
    .toSorted((a, b) => away(a) - away(b));
  return { ...design, accepted: design.accepted.filter((one) => one !== nearest) };
}
