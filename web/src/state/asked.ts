// Answers of the server about the document as it stands, asked for only while nothing changes: pointing at something,
// or dragging a number, must not hold up the outlines.

import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Design } from "../document/types";
import { useRested } from "../ui/rested";
import { useDesign } from "./timeline";

/** What outlines depend on: a key for answers about them. */
export function useOutlinesKey(design: Design): string {
  return useMemo(() => JSON.stringify([design.art, design.layers]), [design.art, design.layers]);
}

/** The answer about a layer of the rested document; none while it changes, or where nothing is asked. */
export function useAsked<Answer>(
  what: (string | number)[] | null,
  ask: (document: Design, signal: AbortSignal) => Promise<Answer>,
): Answer | undefined {
  const now = useDesign();
  const design = useRested(now);
  const key = useOutlinesKey(design);
  const still = design === now;
  const { data } = useQuery({
    queryKey: [...(what ?? []), key],
    queryFn: ({ signal }) => ask(design, signal),
    enabled: what !== null && still,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });
  return what !== null && still ? data : undefined;
}
