// Findings that are let be, and asked about again.

import type { Finding } from "../api/client";
import type { Design } from "./types";

/** The design with a finding let be, with the reason why. */
export function accepted(design: Design, { kind, layer, spot }: Finding, note: string): Design {
  return { ...design, accepted: [...design.accepted, { kind, layer, spot, everywhere: false, note }] };
}

/** The design with all findings of that kind and layer let be, wherever they are. */
export function acceptedAll(design: Design, { kind, layer }: Finding, note: string): Design {
  const others = design.accepted.filter((one) => one.kind !== kind || one.layer !== layer);
  return { ...design, accepted: [...others, { kind, layer, spot: null, everywhere: true, note }] };
}

/** The design with a finding asked about again: the acceptance nearest to its place goes. */
export function reopened(design: Design, { kind, layer, spot }: Finding): Design {
  const away = (one: Design["accepted"][number]) =>
    one.spot && spot && one.spot.art === spot.art && one.spot.part === spot.part
      ? Math.hypot(one.spot.x - spot.x, one.spot.y - spot.y)
      : Number.MAX_VALUE;
  const alike = design.accepted.filter((one) => one.kind === kind && one.layer === layer);
  const [nearest] = alike.toSorted(
    (a, b) => Number(b.everywhere) - Number(a.everywhere) || away(a) - away(b),
  );
  return { ...design, accepted: design.accepted.filter((one) => one !== nearest) };
}
