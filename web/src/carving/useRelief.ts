// The relief of the document as it rests, with what was shown before it until it is there.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import type { Design } from "../document/types";
import { useRested } from "../ui/rested";
import { readRelief } from "./relief";

export function useRelief(design: Design, levels: number[], cells: number, name: string) {
  const rested = useRested(design);
  const queries = useQueryClient();
  const { data, error, isFetching, isPlaceholderData, refetch } = useQuery({
    queryKey: [
      "relief",
      levels,
      cells,
      JSON.stringify([rested.art, rested.layers, rested.carving, rested.materials]),
    ],
    queryFn: async ({ signal }) =>
      readRelief(await api.relief({ document: rested, levels, cells }, signal, name)),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 20_000,
    retry: false,
    placeholderData: (before) => before,
  });
  const problem = error instanceof Problem ? error.sentence : error ? "The relief cannot be shown." : "";
  // Cancelled, it stays as it was until it is asked for again.
  const stopped = !isFetching && !error && (data === undefined || isPlaceholderData);
  return useMemo(
    () => ({
      relief: data ?? null,
      problem,
      busy: isFetching,
      stopped,
      cancel: () => void queries.cancelQueries({ queryKey: ["relief"] }),
      again: () => void refetch(),
    }),
    [data, problem, isFetching, stopped, queries, refetch],
  );
}
