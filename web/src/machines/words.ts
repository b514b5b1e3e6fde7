// What machines and jobs are doing, in words.

import type { Machine, MachineJob } from "../api/answers";

/** What its state is called: a job that is stopped before its first move was never in the middle of anything. */
export function stateOf(machine: Machine): string {
  const job = machine.jobs.find((one) => one.id === machine.current);
  return machine.state === "stopped" && job?.share === 0 ? "stopped before it began" : STATES[machine.state];
}

export const STATES: Record<Machine["state"], string> = {
  ready: "ready",
  cutting: "cutting",
  paused: "paused",
  stopped: "stopped in the middle",
  offline: "off",
  out_of_material: "out of material",
  wrong_tool: "another tool is in",
};

/** What the maker can do about it. */
export function advice(machine: Machine): string {
  const job = machine.jobs.find((one) => one.id === machine.current);
  const waiting = machine.jobs.filter((one) => one.state === "waiting").length;
  switch (machine.state) {
    case "offline":
      return waiting > 0
        ? `${waiting === 1 ? "A job waits" : `${waiting} jobs wait`} until it is switched on.`
        : "Switch it on to use it; jobs sent to it wait.";
    case "wrong_tool":
      return `“${job?.title}” is made for the ${job?.tool}; the ${machine.tool} is in. ${machine.tools.includes(job?.tool ?? "") ? "Change it, or go on anyway" : "This machine has none: stop the job and send it to another, or go on anyway"}.`;
    case "out_of_material":
      return `“${job?.title}” needs ${Math.ceil(job?.height_mm ?? 0)} mm; ${Math.floor(machine.left_mm)} mm are left. Load some, or go on anyway.`;
    case "stopped":
      return "Let it go on where it was, or give the job up for the next one.";
    default:
      return "";
  }
}

export function jobState(job: MachineJob): string {
  if (job.state === "waiting") return "waits";
  if (job.state === "refused") return "not understood";
  if (job.state === "cancelled") return "taken back";
  switch (job.cut) {
    case "done":
      return "done";
    case "given_up":
      return `given up at ${Math.round(job.share * 100)} %`;
    case "stopped":
      return job.share > 0 ? `stopped at ${Math.round(job.share * 100)} %` : "not begun";
    case "cutting":
      return `${Math.round(job.share * 100)} %`;
    default:
      return "is next";
  }
}
