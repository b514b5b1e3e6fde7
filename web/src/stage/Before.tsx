// Before and after: the design as it was opened, or without the step that is pointed at, in place of how it stands.

import { skipToken, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { api } from "../api/client";
import { isLine } from "../document/handOver";
import { withoutStep } from "../document/recipes";
import type { Design } from "../document/types";
import { looksLike, useMaterials } from "../layers/catalogue";
import { select, useSelection } from "../state/selection";
import { useDesign, useTimeline } from "../state/timeline";
import { isKey, isTyping } from "../ui/keys";

/** What is compared with: a design, and what it is called; nothing until somebody asks for it. */
function useCompared(): { design: Design; title: string } | null {
  const now = useDesign();
  const opened = useTimeline((state) => state.opened);
  const comparing = useSelection((state) => state.comparing);
  const stage = useSelection((state) => state.stage);
  return useMemo(() => {
    if (!comparing || !opened) return null;
    if (stage) return { design: withoutStep(now, stage.layer, stage.step), title: "Without this step" };
    return { design: opened, title: "As it was opened" };
  }, [comparing, opened, stage, now]);
}

export function useBefore() {
  const compared = useCompared();
  const document = compared?.design;
  // Nothing is asked, nor a key made of the document, at edits that nobody compares.
  const { data } = useQuery({
    queryKey: ["before", document],
    queryFn: document
      ? ({ signal }) =>
          api.build(
            {
              document,
              exact: false,
              have: [],
              parts_of: null,
              seams: false,
              checks: false,
              widths: false,
            },
            signal,
          )
      : skipToken,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });
  useHeldKey();
  return compared && data ? { ...compared, reply: data } : null;
}

export function Before({ before }: { before: NonNullable<ReturnType<typeof useBefore>> }) {
  const materials = useMaterials();
  const { design, reply } = before;
  return (
    <g fillRule="evenodd" strokeLinejoin="round" data-testid="as-before">
      {design.layers
        .filter((layer) => !layer.hidden)
        .toReversed()
        .map((layer) => (
          <path
            key={layer.id}
            d={reply.layers.find((one) => one.id === layer.id)?.path ?? ""}
            fill={layer.process === "guide" || isLine(layer) ? "none" : looksLike(materials, layer).colour}
            vectorEffect="non-scaling-stroke"
            strokeWidth={0.75}
            className="stroke-ink/45"
          />
        ))}
    </g>
  );
}

/** The key compares as long as it is held; in a field it is a letter. */
function useHeldKey() {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!isTyping(event) && isKey(event, "before") && !event.repeat) select({ comparing: true });
    };
    const release = (event: KeyboardEvent) => {
      if (isKey(event, "before")) select({ comparing: false });
    };
    addEventListener("keydown", press);
    addEventListener("keyup", release);
    return () => {
      removeEventListener("keydown", press);
      removeEventListener("keyup", release);
    };
  }, []);
}
