// Opens a design from the server, then shows the bench.

import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import { useParams } from "react-router";
import { api, Problem } from "../api/client";
import { useAutosave } from "../state/autosave";
import { savingAnew } from "../state/saving";
import { clearSelection } from "../state/selection";
import { useTimeline } from "../state/timeline";
import { forgetUndoable } from "../state/undoable";
import { Lost } from "../ui/Lost";
import { Bench } from "./Bench";

const HandOverPage = lazy(() => import("../handover/HandOverPage"));

/** The bench, or the page from which the design is handed over. */
export function BenchPage({ handsOver = false }: { handsOver?: boolean }) {
  const { id = "" } = useParams();
  const [problem, setProblem] = useState<Problem | null>(null);
  const open = useTimeline((state) => state.id === id && state.timeline.length > 0);
  const fonts = useQuery({ queryKey: ["fonts"], queryFn: api.fonts, staleTime: Number.POSITIVE_INFINITY });
  const materials = useQuery({
    queryKey: ["materials"],
    queryFn: api.materials,
    staleTime: Number.POSITIVE_INFINITY,
  });
  useAutosave(id);

  useEffect(() => {
    let gone = false;
    useTimeline.getState().close();
    clearSelection();
    forgetUndoable();
    savingAnew();
    api.get(id).then(
      (state) => !gone && useTimeline.getState().open(state),
      (error) =>
        !gone && setProblem(error instanceof Problem ? error : new Problem(0, "Not opened", String(error))),
    );
    return () => {
      gone = true;
    };
  }, [id]);

  if (problem) return <Lost title={problem.title} sentence={problem.sentence} />;
  const failed = fonts.error ?? materials.error;
  if (failed) return <Lost title="The bench cannot be set up" sentence={failed.message} />;
  if (!open || !fonts.data || !materials.data) {
    return <p className="p-8 text-soft">Opening the design…</p>;
  }
  if (!handsOver) return <Bench fonts={fonts.data} materials={materials.data} />;
  return (
    <Suspense fallback={null}>
      <HandOverPage fonts={fonts.data} materials={materials.data} />
    </Suspense>
  );
}
