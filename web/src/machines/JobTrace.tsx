// What was asked of a machine, and what it has cut so far, one upon the other.

import { useQuery } from "@tanstack/react-query";
import type { MachineJob } from "../api/answers";
import { api } from "../api/client";
import { CarvedSoFar } from "./CarvedSoFar";
import { jobState } from "./words";

export function JobTrace({ job }: { job: MachineJob }) {
  const going = job.state === "waiting" || job.cut === "cutting" || job.cut === "taken";
  const { data } = useQuery({
    queryKey: ["trace", job.id, going, job.cut],
    queryFn: () => api.jobTrace(job.id),
    refetchInterval: going ? 350 : false,
    placeholderData: (before) => before,
  });
  const room = Math.max(job.width_mm, job.height_mm) * 0.03;
  return (
    <figure className="rounded-2xl border border-line bg-sheet p-4">
      <figcaption className="flex items-baseline gap-3">
        <span className="min-w-0 flex-1 truncate font-semibold">{job.title}</span>
        <span className="text-soft text-xs" data-testid="trace-facts">
          {job.material}, {Math.round(job.width_mm)} × {Math.round(job.height_mm)} mm: {jobState(job)}
        </span>
      </figcaption>
      {job.carves && <CarvedSoFar job={job.id} going={going} done={job.cut ?? ""} />}
      {data && !job.carves && (
        <>
          <svg
            role="img"
            aria-label="What was asked, and what is cut"
            viewBox={`${data.low_mm[0] - room} ${-data.low_mm[1] - job.height_mm - room} ${job.width_mm + 2 * room} ${job.height_mm + 2 * room}`}
            className="mt-2 max-h-[60vh] w-full rounded-xl bg-bench"
          >
            <path d={data.asked} className="fill-none stroke-soft" vectorEffect="non-scaling-stroke" />
            <path
              d={data.cut}
              data-testid="traced"
              className="fill-none stroke-halo"
              strokeWidth={1.6}
              vectorEffect="non-scaling-stroke"
            />
            {going && (
              <circle
                cx={data.here_mm[0]}
                cy={-data.here_mm[1]}
                r={Math.max(job.width_mm, job.height_mm) / 110}
                className="fill-glow stroke-halo"
                strokeWidth={Math.max(job.width_mm, job.height_mm) / 400}
              />
            )}
          </svg>
          {data.cut && (
            <p className="mt-1 text-soft text-xs">
              What is cut lies at most {data.deviation_mm.toFixed(3)} mm from what was asked; a step of the
              machine is 0.025 mm.
            </p>
          )}
        </>
      )}
    </figure>
  );
}
