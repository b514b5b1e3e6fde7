// The practice machines: what each does, its panel, its queue, and what it has cut.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { Failure } from "../ui/Failure";
import { ThemeButton } from "../ui/ThemeButton";
import { JobTrace } from "./JobTrace";
import { MachineCard } from "./MachineCard";

/** Looked at this often while something is cut, and otherwise; in ms. */
const BUSY_MS = 400;
const IDLE_MS = 1500;

export default function MachinesPage() {
  const [watched, setWatched] = useState<number | null>(null);
  const { data, error } = useQuery({
    queryKey: ["machines"],
    queryFn: api.machines,
    refetchInterval: ({ state }) => (state.data?.some((one) => one.state === "cutting") ? BUSY_MS : IDLE_MS),
  });
  useEffect(() => {
    document.title = "Machines – Tin Halo";
    return () => {
      document.title = "Tin Halo";
    };
  }, []);
  // What is cut now is looked at, until another job is picked.
  const busy = data?.find((one) => one.state === "cutting")?.current ?? null;
  const shown = watched ?? busy;
  const job = data?.flatMap((one) => one.jobs).find((one) => one.id === shown);
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex items-center gap-4 border-line border-b bg-sheet px-8 py-3 max-sm:px-4">
        <Link to="/" className="font-semibold text-halo underline underline-offset-4">
          The shelf
        </Link>
        <h1 className="font-display font-semibold text-2xl">Practice machines</h1>
        <span className="flex-1" />
        <ThemeButton />
      </header>
      <main className="mx-auto flex w-full max-w-6xl flex-1 flex-col gap-4 px-8 py-5 max-sm:px-4">
        <p className="max-w-3xl text-soft">
          Stand-ins to try a job on before the real thing, on this computer only: cutters, plotters and lasers
          speak HP-GL, the mill reads G-code (RS-274/NGC). Real machines take the files that you download.
        </p>
        {error && (
          <p role="alert" className="text-alarm">
            {error instanceof Problem ? error.sentence : "The machines cannot be reached."}
          </p>
        )}
        <Failure place="machines" className="rounded-xl border border-alarm" />
        <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-4 max-lg:grid-cols-1">
          <div className="flex flex-col gap-4">
            {data?.map((machine) => (
              <MachineCard key={machine.id} machine={machine} watched={shown} watch={setWatched} />
            ))}
          </div>
          <section aria-label="What is cut" className="lg:sticky lg:top-4 lg:self-start">
            {job ? (
              <JobTrace job={job} />
            ) : (
              <p className="rounded-2xl border border-line border-dashed p-6 text-center text-soft">
                What a machine cuts is seen here. Send it a board from the hand-over of a design.
              </p>
            )}
          </section>
        </div>
      </main>
    </div>
  );
}
