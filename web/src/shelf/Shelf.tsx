// The shelf: every design with a picture of how it stands.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, type Problem, type Summary } from "../api/client";
import type { Design } from "../document/types";
import { ThemeButton } from "../ui/ThemeButton";
import { say } from "../ui/toast";
import { ShelfCard } from "./ShelfCard";
import { NewDesign } from "./Starters";

export function Shelf() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { data, error, refetch } = useQuery({ queryKey: ["designs"], queryFn: api.designs });
  const refresh = () => queries.invalidateQueries({ queryKey: ["designs"] });
  const onError = (problem: Error) => say(problem.message);

  const create = useMutation({
    mutationFn: (document: Design) => api.create(document),
    onSuccess: (state) => navigate(`/design/${state.id}`, { state: { fresh: true } }),
    onError,
  });
  const duplicate = useMutation({ mutationFn: api.duplicate, onSuccess: refresh, onError });
  const rename = useMutation({
    mutationFn: ({ id, name }: { id: string; name: string }) => api.rename(id, name),
    onSuccess: refresh,
    onError,
  });
  const restore = useMutation({ mutationFn: api.restore, onSuccess: refresh, onError });
  const remove = useMutation({
    mutationFn: (design: Summary) => api.remove(design.id),
    onSuccess: (_, design) => {
      void refresh();
      say(`“${design.name}” is off the shelf.`, {
        label: "Put it back",
        run: () => restore.mutate(design.id),
      });
    },
    onError,
  });

  return (
    <div className="flex min-h-full flex-col">
      <header className="flex items-center gap-3 border-line border-b bg-sheet px-8 py-3 max-sm:px-4">
        <img src={new URL("../ui/icon.svg", import.meta.url).href} alt="" className="size-8" />
        <span className="font-display font-semibold text-xl">Tin Halo</span>
        <span className="flex-1" />
        <ThemeButton />
        <NewDesign onBegin={create.mutate} busy={create.isPending} />
      </header>
      <main className="mx-auto w-full max-w-6xl flex-1 px-8 py-7 max-sm:px-4">
        <h1 className="font-display font-semibold text-3xl">The shelf</h1>
        <p className="mt-1 mb-6 text-soft">
          Words, and the layers that are cut from them. Open one, or begin with a name.
        </p>
        {error && (
          <p role="alert" className="rounded-xl border border-alarm p-4 text-alarm">
            {(error as Problem).message}{" "}
            <button type="button" className="font-semibold underline" onClick={() => refetch()}>
              Try again
            </button>
          </p>
        )}
        {data?.length === 0 && (
          <div className="rounded-2xl border-2 border-line border-dashed p-12 text-center">
            <p className="font-display text-xl">The shelf is empty.</p>
            <p className="mt-1 mb-4 text-soft">
              A new design starts with a word, and with layers that are made from it.
            </p>
            <NewDesign onBegin={create.mutate} busy={create.isPending} />
          </div>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(min(17rem,100%),1fr))] gap-6">
          {data?.map((design) => (
            <ShelfCard
              key={design.id}
              design={design}
              onRename={(name) => rename.mutate({ id: design.id, name })}
              onDuplicate={() => duplicate.mutate(design.id)}
              onDelete={() => remove.mutate(design)}
            />
          ))}
        </ul>
      </main>
    </div>
  );
}
