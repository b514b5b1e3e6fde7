// How machines follow what leaves: how long it is and takes, and the path itself, played.

import { useQuery } from "@tanstack/react-query";
import { Play } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { type MachinePath, Problem } from "../api/answers";
import { api } from "../api/client";
import { setOvercut } from "../document/handOver";
import { length } from "../document/units";
import { EditNumber } from "../fields/EditNumber";
import { edits, useDesign } from "../state/timeline";
import { Button } from "../ui/Button";
import { Panel, PanelTitle } from "../ui/Panel";
import { useRested } from "../ui/rested";
import { PathPlayer } from "./PathPlayer";

export function Paths() {
  const now = useDesign();
  const design = useRested(now);
  const [watched, setWatched] = useState<MachinePath | null>(null);
  const { data, error } = useQuery({
    queryKey: ["paths", design.art, design.layers, design.hand_over, design.materials, design.sheet],
    queryFn: ({ signal }) => api.paths(design, signal),
    placeholderData: (before) => before,
    gcTime: 30_000,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return (
    <section aria-label="The path">
      {error && (
        <p className="text-alarm">{error instanceof Problem ? error.sentence : "It cannot be worked out."}</p>
      )}
      {!data && !error && <p className="text-soft">Working out the order…</p>}
      <ul>
        {data?.map((path) => (
          <li key={path.title} className="flex items-center gap-3 border-line border-b py-1">
            <span className="flex-1">
              {path.title} <PathFacts path={path} />
            </span>
            <Button look="quiet" className="px-2" onClick={() => setWatched(path)}>
              <Play size={15} /> Watch it
            </Button>
          </li>
        ))}
      </ul>
      <p className="mt-1 leading-8">
        Inside before outside, cuts last. Closed cuts go on past their beginning by{" "}
        <EditNumber
          inline
          label="Overcut"
          value={now.hand_over.overcut}
          unit={now.unit}
          min={0}
          max={10}
          edits={(value) => edits((one) => setOvercut(one, value), "overcut")}
        />{" "}
        in HP-GL files.
      </p>
      <Dialog.Root open={watched !== null} onOpenChange={(open) => !open && setWatched(null)}>
        <Panel className="max-h-[92vh] w-[58rem] max-w-[94vw]" scrolls>
          <PanelTitle title={watched?.title ?? "The path"} />
          {watched && <PathPlayer path={watched} />}
        </Panel>
      </Dialog.Root>
    </section>
  );
}

function PathFacts({ path }: { path: MachinePath }) {
  const { unit } = useDesign();
  const worked = path.lines.reduce((sum, line) => sum + line.length_mm, 0);
  const kerfs = [...new Set(Object.values(path.kerf_mm))];
  return (
    <span className="block text-soft text-xs">
      {path.lines.length} {path.lines.length === 1 ? "line" : "lines"}, {length(worked, unit, 0)}, and{" "}
      {length(path.travel_mm, unit, 0)} between them: about {duration(path.seconds)}
      {kerfs.length > 0 &&
        `. Cut lines leave ${kerfs.map((one) => length(one / 2, unit)).join(" and ")} beside the outline for the kerf`}
    </span>
  );
}

/** “3 min 20 s”. */
export function duration(seconds: number): string {
  const whole = Math.max(1, Math.round(seconds));
  const [minutes, rest] = [Math.floor(whole / 60), whole % 60];
  if (minutes === 0) return `${rest} s`;
  return minutes < 10 && rest > 0 ? `${minutes} min ${rest} s` : `${Math.round(seconds / 60)} min`;
}
