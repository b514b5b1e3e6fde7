// The relief of the document as it rests, with what was shown before it until it is there.

import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import type { Design } from "../document/types";
import { useRested } from "../ui/rested";
import { readRelief } from "./relief";

export function useRelief(design: Design, levels: number[], cells: number) {
  const rested = useRested(design);
  const { data, error, isFetching } = useQuery({
    queryKey: [
      "relief",
      levels,
      cells,
      JSON.stringify([rested.art, rested.layers, rested.carving, rested.materials]),
    ],
    queryFn: async ({ signal }) => readRelief(await api.relief({ document: rested, levels, cells }, signal)),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 20_000,
    retry: false,
    placeholderData: (before) => before,
  });
  const problem = error instanceof Problem ? error.sentence : error ? "The relief cannot be shown." : "";
  return useMemo(() => ({ relief: data ?? null, problem, busy: isFetching }), [data, problem, isFetching]);
}
