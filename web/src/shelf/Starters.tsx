// A new design: starters drawn with the maker's own words, and those that were saved.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus, Trash2 } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api, type Starter } from "../api/client";
import { withWords } from "../document/art";
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

  const begin = ({ document }: Starter) => {
    const typed = text.trim();
    const design = { ...(document as Design), name: typed || "Untitled" };
    onBegin(typed ? withWords(design, typed) : design);
  };
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
  const trouble = error ?? remove.error ?? putBack.error;

  return (
    <>
      <div className="border-line border-b px-6 pt-5 pb-4">
        <PanelTitle title="What will it be?" />
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
          {data?.map((starter) => (
            <Card
              key={starter.id}
              starter={starter}
              words={words}
              busy={busy}
              onBegin={() => begin(starter)}
              onRemove={() => remove.mutate(starter)}
            />
          ))}
        </ul>
      </div>
    </>
  );
}

type CardProps = {
  starter: Starter;
  words: string;
  busy: boolean;
  onBegin: () => void;
  onRemove: () => void;
};

function Card({ starter, words, busy, onBegin, onRemove }: CardProps) {
  return (
    <li className="relative rounded-xl border border-line bg-sheet transition-shadow hover:shadow-black/10 hover:shadow-lg">
      <button type="button" disabled={busy} className="block w-full rounded-xl text-left" onClick={onBegin}>
        <span className="block h-30 rounded-t-xl bg-bench p-3">
          <img
            src={`/api/starters/${starter.id}/drawing.svg?text=${encodeURIComponent(words)}`}
            alt=""
            className="size-full object-contain"
          />
        </span>
        <span className="block px-3 py-2">
          <span className="block font-semibold">{starter.title}</span>
          <span className="block text-soft text-xs">{starter.does}</span>
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
