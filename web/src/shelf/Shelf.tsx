// The shelf: every design with a picture of how it stands.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type Problem, type Summary } from "../api/client";
import type { Design } from "../document/types";
import { ContactSheet } from "../paper/ContactSheet";
import { Failure, fail } from "../ui/Failure";
import { ThemeButton } from "../ui/ThemeButton";
import { say } from "../ui/toast";
import { useMinute } from "../ui/useMinute";
import { Finding, found, MANY, type Order } from "./Finding";
import { Folders, foldersOf, type Shown } from "./Folders";
import { Notice } from "./Notice";
import { OpenFile } from "./OpenFile";
import { openOrBegin } from "./openOrBegin";
import { PickedBar } from "./PickedBar";
import { ShelfCard } from "./ShelfCard";
import { NewDesign } from "./Starters";

/** Downloads nearer to each other than this are taken for one. */
const BETWEEN_MS = 400;

export function Shelf() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const now = useMinute();
  const { data, error, refetch } = useQuery({ queryKey: ["designs"], queryFn: api.designs });
  const refresh = () => queries.invalidateQueries({ queryKey: ["designs"] });
  const onError = (problem: Error) => fail("shelf", problem.message);

  const create = useMutation({
    mutationFn: (document: Design) => api.create(document),
    onSuccess: (state) => navigate(`/design/${state.id}`, { state: { fresh: true } }),
    onError,
  });
  const open = useMutation({
    mutationFn: openOrBegin,
    onSuccess: (state) => navigate(`/design/${state.id}`),
    onError,
  });
  const duplicate = useMutation({ mutationFn: api.duplicate, onSuccess: refresh, onError });
  const rename = useMutation({
    mutationFn: ({ id, name }: { id: string; name: string }) => api.rename(id, name),
    onSuccess: refresh,
    onError,
  });
  const restore = useMutation({
    mutationFn: (ids: string[]) => Promise.all(ids.map((id) => api.restore(id))),
    onSettled: refresh,
    onError,
  });
  const remove = useMutation({
    mutationFn: (designs: Summary[]) => Promise.all(designs.map((one) => api.remove(one.id))),
    onSuccess: (_, designs) => {
      setPicked([]);
      const [only] = designs;
      const one = designs.length === 1 && only;
      say(one ? `“${one.name}” is off the shelf.` : `${designs.length} designs are off the shelf.`, {
        label: one ? "Put it back" : "Put them back",
        run: () => restore.mutate(designs.map((each) => each.id)),
      });
    },
    // Some may be gone all the same.
    onSettled: refresh,
    onError,
  });
  const putInto = useMutation({
    mutationFn: async ({ designs, folder }: { designs: Summary[]; folder: string }) => {
      await api.putInto(
        designs.map((one) => one.id),
        folder,
      );
    },
    onSuccess: (_, { designs, folder }) => {
      setPicked([]);
      const what = designs.length === 1 ? "1 design is" : `${designs.length} designs are`;
      say(folder ? `${what} in “${folder}” now.` : `${what} in no folder now.`);
    },
    onSettled: refresh,
    onError,
  });
  const [picked, setPicked] = useState<string[]>([]);
  const [text, setText] = useState("");
  const [order, setOrder] = useState<Order>("newest");
  const [asked, setAsked] = useState<Shown>(null);
  const all = data ?? [];
  const folders = foldersOf(all);
  const foldered = all.length > MANY || folders.length > 0;
  // The last design of a folder takes it along.
  const folder = asked && !folders.includes(asked) ? null : asked;
  const inside = folder === null ? all : all.filter((one) => one.folder === folder);
  const shown = all.length > MANY ? found(inside, text, order) : inside;
  // What is not in sight is not meant.
  const meant = shown.filter((one) => picked.includes(one.id));
  const pick = (id: string, on: boolean) =>
    setPicked((before) => (on ? [...before, id] : before.filter((one) => one !== id)));

  return (
    <div className="flex min-h-full flex-col">
      <header className="flex items-center gap-3 max-sm:gap-1 border-line border-b bg-sheet px-8 py-3 max-sm:px-4">
        <img src={new URL("../ui/icon.svg", import.meta.url).href} alt="" className="size-8" />
        <span className="font-display font-semibold text-xl max-sm:sr-only">Tin Halo</span>
        <span className="flex-1" />
        <Link
          to="/machines"
          className="text-soft underline-offset-4 hover:text-ink hover:underline max-sm:text-xs"
        >
          Machines
        </Link>
        <Link to="/guide" className="text-soft underline-offset-4 hover:text-ink hover:underline">
          Guide
        </Link>
        <ThemeButton />
        <OpenFile onOpen={open.mutate} busy={open.isPending} />
        <NewDesign onBegin={create.mutate} busy={create.isPending} />
      </header>
      <main className="mx-auto w-full max-w-6xl flex-1 px-8 py-7 max-sm:px-4">
        <h1 className="font-display font-semibold text-3xl">The shelf</h1>
        <p className="mt-1 mb-6 text-soft">
          Words, and the layers that are cut from them. Open one, or begin with a name.
        </p>
        <Notice />
        <Failure place="shelf" className="mb-6 rounded-xl border border-alarm" />
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
            <p className="mb-4 font-display text-xl">
              The shelf is empty: press New design and type the word that you want to cut.
            </p>
            <NewDesign onBegin={create.mutate} busy={create.isPending} />
          </div>
        )}
        {all.length > MANY && <Finding text={text} order={order} onText={setText} onOrder={setOrder} />}
        {folders.length > 0 && <Folders designs={all} shown={folder} onShow={setAsked} />}
        {all.length > 0 && shown.length === 0 && (
          <p className="text-soft">
            {text ? "No design here is called that. Look for another word." : "No design is here."}
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(min(17rem,100%),1fr))] gap-6">
          {shown.map((design) => (
            <ShelfCard
              key={design.id}
              design={design}
              now={now}
              onRename={(name) => rename.mutate({ id: design.id, name })}
              onDuplicate={() => duplicate.mutate(design.id)}
              onDelete={() => remove.mutate([design])}
              picked={meant.includes(design)}
              anyPicked={meant.length > 0}
              onPick={(on) => pick(design.id, on)}
            />
          ))}
        </ul>
        {meant.length > 0 && (
          <PickedBar
            count={meant.length}
            folders={foldered ? folders : null}
            busy={remove.isPending}
            sheet={
              <ContactSheet
                about="The picked designs side by side on one page, each with its name and its size."
                make={(sheet, signal, request) =>
                  api.contactSheet({ ids: meant.map((one) => one.id), ...sheet }, signal, request)
                }
              />
            }
            onPack={() => handOver(meant)}
            onDelete={() => remove.mutate(meant)}
            onPutInto={(folder) => putInto.mutate({ designs: meant, folder })}
            onPickNone={() => setPicked([])}
          />
        )}
      </main>
    </div>
  );
}

/** One download after the other: a browser takes no two from one press. */
async function handOver(designs: Summary[]): Promise<void> {
  for (const { id } of designs) {
    const link = document.createElement("a");
    link.href = `/api/designs/${id}/files`;
    link.download = "";
    link.click();
    await new Promise((done) => setTimeout(done, BETWEEN_MS));
  }
}
