// A new design: starters drawn with the maker's own words, and those that were saved.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus, Trash2 } from "lucide-react";
import { Dialog } from "radix-ui";
import { type KeyboardEvent, useState } from "react";
import { api, type Starter } from "../api/client";
import type { Design } from "../document/types";
import { Button, IconButton } from "../ui/Button";
import { Panel, PanelTitle } from "../ui/Panel";
import { useRested } from "../ui/rested";

type Props = { onBegin: (document: Design) => void; busy: boolean };

/** The button, and the panel it opens. */
export function NewDesign({ onBegin, busy }: Props) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button look="main" disabled={busy}>
          <Plus size={16} /> New design
        </Button>
      </Dialog.Trigger>
      <Panel className="flex h-[44rem] max-h-[92vh] w-[64rem] max-w-[94vw] flex-col">
        <Gallery onBegin={onBegin} busy={busy} />
      </Panel>
    </Dialog.Root>
  );
}

function Gallery({ onBegin, busy }: Props) {
  const queries = useQueryClient();
  const [text, setText] = useState("");
  const words = useRested(text.trim());
  const { data, error } = useQuery({ queryKey: ["starters"], queryFn: api.starters });

  const typed = text.trim();
  const opening = useMutation({
    mutationFn: (starter: Starter) => api.begin(starter.id, typed),
    onSuccess: (document) => onBegin({ ...(document as Design), name: typed || "Untitled" }),
  });
  const occupied = busy || opening.isPending;
  const begin = opening.mutate;
  const refresh = () => queries.invalidateQueries({ queryKey: ["starters"] });
  const remove = useMutation({
    mutationFn: (starter: Starter) => api.removeStarter(starter.id),
    onSuccess: refresh,
  });
  const putBack = useMutation({
    mutationFn: (starter: Starter) => api.saveStarter(starter.title, starter.document),
    onSuccess: () => {
      remove.reset();
      void refresh();
    },
  });
  const gone = remove.isSuccess ? remove.variables : null;
  const trouble = error ?? opening.error ?? remove.error ?? putBack.error;

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the arrow keys of the cards in it
    <div className="group/gallery flex min-h-0 flex-1 flex-col" onKeyDown={walkCards}>
      <div className="border-line border-b px-6 pt-5 pb-4">
        <PanelTitle title="What will it be?" />
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (data?.[0] && !occupied) begin(data[0]);
          }}
        >
          <input
            // biome-ignore lint/a11y/noAutofocus: a new design begins with its words
            autoFocus
            aria-label="Words for the new design"
            placeholder="Type the words, or leave it to later"
            value={text}
            maxLength={200}
            className="mt-3 h-10 w-full rounded-lg border border-line bg-paper px-3 font-display font-semibold text-lg"
            onChange={(event) => setText(event.target.value)}
          />
        </form>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto p-6">
        {trouble && (
          <p role="alert" className="mb-4 text-alarm">
            {trouble.message}
          </p>
        )}
        {gone && (
          <p role="status" className="mb-4">
            The starter “{gone.title}” is gone.{" "}
            <button type="button" className="font-semibold underline" onClick={() => putBack.mutate(gone)}>
              Put it back
            </button>
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(13.5rem,1fr))] gap-4">
          {data?.map((starter, index) => (
            <Card
              key={starter.id}
              first={index === 0}
              starter={starter}
              words={words}
              busy={occupied}
              opening={opening.isPending && opening.variables.id === starter.id}
              onBegin={() => begin(starter)}
              onRemove={() => remove.mutate(starter)}
            />
          ))}
        </ul>
      </div>
    </div>
  );
}

/** Arrow keys walk from the words to the cards and among these, as they stand in rows. */
function walkCards(event: KeyboardEvent<HTMLElement>) {
  const from = event.target as HTMLElement;
  const cards = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-starter]")];
  const at = cards.indexOf(from);
  const top = cards[0]?.getBoundingClientRect().top;
  const across = cards.filter((card) => card.getBoundingClientRect().top === top).length;
  const ways: Record<string, number> = { ArrowDown: across, ArrowUp: -across, ArrowRight: 1, ArrowLeft: -1 };
  const way = ways[event.key];
  // Left and right stay with the text.
  if (!way || (at < 0 && event.key !== "ArrowDown")) return;
  event.preventDefault();
  const to = at < 0 ? 0 : at + way;
  if (to < 0) event.currentTarget.querySelector("input")?.focus();
  else cards[to]?.focus();
}

type CardProps = {
  /** What Enter begins with, from the words. */
  first: boolean;
  starter: Starter;
  words: string;
  busy: boolean;
  opening: boolean;
  onBegin: () => void;
  onRemove: () => void;
};

function Card({ first, starter, words, busy, opening, onBegin, onRemove }: CardProps) {
  return (
    <li className="relative rounded-xl border border-line bg-sheet transition-shadow hover:shadow-black/10 hover:shadow-lg">
      <button
        type="button"
        data-starter={starter.id}
        disabled={busy}
        className={`flex h-full w-full flex-col justify-start rounded-xl text-left ${first ? "group-has-[form:focus-within]/gallery:outline-2 group-has-[form:focus-within]/gallery:outline-halo" : ""}`}
        onClick={onBegin}
      >
        <span className="block h-30 rounded-t-xl bg-bench p-3">
          <img
            src={`/api/starters/${starter.id}/drawing.svg?text=${encodeURIComponent(words)}`}
            alt=""
            className="size-full object-contain"
          />
        </span>
        <span className="block px-3 py-2">
          <span className="block font-semibold">{starter.title}</span>
          <span className="block text-soft text-xs">
            {opening ? (
              <span role="status" className="shown-late font-semibold">
                Setting it up…
              </span>
            ) : (
              starter.does
            )}
          </span>
        </span>
      </button>
      {starter.own && (
        <span className="absolute top-1 right-1">
          <IconButton label={`Remove the starter ${starter.title}`} onClick={onRemove}>
            <Trash2 size={15} />
          </IconButton>
        </span>
      )}
    </li>
  );
}
