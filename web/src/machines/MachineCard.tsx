// One machine: its state, its panel, and the jobs that wait for it or were cut.

import { useQueryClient } from "@tanstack/react-query";
import { Eye, Play, Power, Redo, Square, X } from "lucide-react";
import type { Machine, MachineJob } from "../api/answers";
import { api } from "../api/client";
import { Button, IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { attempt } from "../ui/Failure";
import { advice, jobState, stateOf } from "./words";

const PACES = [
  { value: "1", text: "in real time" },
  { value: "10", text: "10 times as fast" },
  { value: "100", text: "100 times as fast" },
];

type Press = Parameters<typeof api.press>[1];
type Props = { machine: Machine; watched: number | null; watch: (job: number) => void };

export function MachineCard({ machine, watched, watch }: Props) {
  const queries = useQueryClient();
  const done = (call: () => Promise<unknown>) =>
    attempt("machines", call).finally(() => queries.invalidateQueries({ queryKey: ["machines"] }));
  const press = (pressed: Press["press"], more: Partial<Press> = {}) =>
    void done(() => api.press(machine.id, { press: pressed, tool: "", pace: 1, ...more }));
  const { state } = machine;
  const on = state !== "offline";
  const held = state === "wrong_tool" || state === "out_of_material";
  const told = advice(machine);
  const jobs = machine.jobs.toReversed();
  return (
    <article
      aria-label={machine.name}
      data-testid={`machine-${machine.id}`}
      className="rounded-2xl border border-line bg-sheet p-4"
    >
      <div className="flex items-center gap-3">
        <h2 className="flex-1 truncate font-display font-semibold text-lg">{machine.name}</h2>
        <span
          data-testid="state"
          className={`rounded-full border px-2.5 py-0.5 text-xs ${held || state === "stopped" ? "border-alarm text-alarm" : state === "cutting" ? "border-halo font-semibold text-halo" : "border-line text-soft"}`}
        >
          {stateOf(machine)}
        </span>
        <IconButton
          label={on ? "Switch off" : "Switch on"}
          aria-pressed={on}
          onClick={() => press(on ? "off" : "on")}
        >
          <Power size={17} className={on ? "text-halo" : ""} />
        </IconButton>
      </div>
      <p className="leading-8">
        {machine.tools.length > 1 ? (
          <Choice
            inline
            label={`Tool of ${machine.name}`}
            value={machine.tool}
            groups={[{ options: machine.tools.map((tool) => ({ value: tool, text: tool })) }]}
            onChange={(tool) => press("tool", { tool })}
          />
        ) : (
          machine.tool
        )}
        ,{" "}
        {machine.roll_mm === null
          ? "a sheet for each job"
          : `${Math.round(machine.left_mm)} mm of material left`}
        , {machine.bed_mm[0]} mm wide, cuts{" "}
        <Choice
          inline
          label={`Pace of ${machine.name}`}
          value={String(machine.pace)}
          groups={[{ options: PACES }]}
          onChange={(pace) => press("pace", { pace: Number(pace) })}
        />
      </p>
      {told && (
        <p role="status" className={held ? "text-alarm" : "text-soft"}>
          {told}
        </p>
      )}
      <div className="mt-1 flex flex-wrap gap-2">
        {state === "cutting" && (
          <>
            <Button onClick={() => press("pause")}>Pause</Button>
            <Button onClick={() => press("stop")}>
              <Square size={14} /> Stop
            </Button>
          </>
        )}
        {(state === "paused" || state === "stopped") && (
          <Button look="main" onClick={() => press("go_on")}>
            <Play size={14} /> Go on
          </Button>
        )}
        {state === "paused" && <Button onClick={() => press("stop")}>Stop</Button>}
        {state === "stopped" && <Button onClick={() => press("give_up")}>Give it up</Button>}
        {held && (
          <>
            <Button onClick={() => press("anyway")}>Go on anyway</Button>
            <Button onClick={() => press("stop")}>Stop</Button>
          </>
        )}
        {on && machine.roll_mm !== null && machine.left_mm < machine.roll_mm && (
          <Button look="quiet" className="px-2" onClick={() => press("load")}>
            Load material
          </Button>
        )}
      </div>
      {jobs.some(isOver) && (
        <Button look="quiet" className="mt-1 px-2" onClick={() => void done(() => api.clearJobs(machine.id))}>
          Clear done jobs
        </Button>
      )}
      {jobs.length > 0 && (
        <ul
          // biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls must be reached by keyboard
          tabIndex={0}
          aria-label={`Jobs of ${machine.name}`}
          className="slim mt-2 max-h-44 overflow-y-auto"
        >
          {jobs.map((job) => (
            <Row key={job.id} job={job} watched={watched === job.id} watch={watch} done={done} />
          ))}
        </ul>
      )}
    </article>
  );
}

const isOver = ({ state, cut }: MachineJob) =>
  state === "cancelled" || state === "refused" || cut === "done" || cut === "given_up";

type RowProps = {
  job: MachineJob;
  watched: boolean;
  watch: (job: number) => void;
  done: (call: () => Promise<unknown>) => Promise<unknown>;
};

function Row({ job, watched, watch, done }: RowProps) {
  return (
    <li className={`flex items-center gap-1 rounded border-line border-t ${watched ? "bg-bench" : ""}`}>
      <span className="min-w-0 flex-1 truncate pl-1">{job.title}</span>
      <span className="shrink-0 text-soft text-xs">{jobState(job)}</span>
      {job.state === "waiting" ? (
        <IconButton label={`Take back ${job.title}`} onClick={() => void done(() => api.cancelJob(job.id))}>
          <X size={16} />
        </IconButton>
      ) : (
        <IconButton label={`Cut ${job.title} again`} onClick={() => void done(() => api.again(job.id))}>
          <Redo size={16} />
        </IconButton>
      )}
      <IconButton label={`Look at ${job.title}`} aria-pressed={watched} onClick={() => watch(job.id)}>
        <Eye size={16} />
      </IconButton>
    </li>
  );
}
