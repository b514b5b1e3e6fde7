// What a mend will do, told before it is made.

import { skipToken, useQuery } from "@tanstack/react-query";
import type { Cause, Mend, Outlook } from "../api/answers";
import { api } from "../api/client";
import type { Built } from "../state/buildLoop";

/** Outlooks are of one document: of the last few. */
const KEPT_MS = 60_000;

/** Asked for once somebody is about to mend it: trying it out is work, and edits must not wait for that. */
export function useOutlook(built: Built | null, cause: Cause, mend: Mend | null): Outlook | null {
  const document = built?.exact && built.checked ? built.document : null;
  const { data } = useQuery({
    queryKey: ["outlook", document, cause.id, mend],
    queryFn:
      document && mend
        ? ({ signal }) => api.lookAhead({ document, mend, cause: cause.id }, signal)
        : skipToken,
    gcTime: KEPT_MS,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return data?.known ? data : null;
}

/** What there is to mind, in a few words and in full; null where it just mends it. */
export function minding({ left, why, also, brings }: Outlook): { short: string; full: string } | null {
  const parts = [
    left > 0 && `leaves ${left}`,
    brings.length > 0 && `brings ${brings.length} new`,
    also.length > 0 && "mends more",
  ].filter((part) => part !== false);
  if (parts.length === 0) return null;
  const full = [
    left > 0 && (left === 1 ? "One place stays as it is." : `${left} places stay as they are.`),
    left > 0 && why,
    also.length > 0 && `With it: ${also.join("; ")}.`,
    ...brings.map((sentence) => `New: ${sentence}`),
  ].filter((part): part is string => Boolean(part));
  return { short: parts.join(", "), full: full.join(" ") };
}
