// Opens a design from the server, then shows the bench.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import { api, Problem } from "../api/client";
import { Lost } from "../ui/Lost";
import { useAutosave } from "./autosave";
import { Bench } from "./Bench";
import { useBench } from "./history";

export function BenchPage() {
  const { id = "" } = useParams();
  const [problem, setProblem] = useState<Problem | null>(null);
  const open = useBench((bench) => bench.id === id && bench.timeline.length > 0);
  const fonts = useQuery({ queryKey: ["fonts"], queryFn: api.fonts, staleTime: Number.POSITIVE_INFINITY });
  const materials = useQuery({
    queryKey: ["materials"],
    queryFn: api.materials,
    staleTime: Number.POSITIVE_INFINITY,
  });
  useAutosave(id);

  useEffect(() => {
    let gone = false;
    useBench.setState({ id: "", timeline: [] });
    api.get(id).then(
      (state) => !gone && useBench.getState().open(state),
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
  return <Bench fonts={fonts.data} materials={materials.data} />;
}
