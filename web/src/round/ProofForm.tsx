// A proof for the customer: one page with the piece as it is turned now, its size, materials and words.

import { FileCheck } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api } from "../api/client";
import { readable } from "../document/readable";
import { type Page, SavePage } from "../paper/SavePage";
import { now, useTimeline } from "../state/timeline";
import { Button } from "../ui/Button";
import { Panel, PanelTitle } from "../ui/Panel";

/** `picture` gives the piece in the round as it is seen, as base64 PNG, where it is. */
export function ProofForm({ picture = () => "" }: { picture?: () => string }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button look="quiet" className="px-2" title="A page for the customer">
          <FileCheck size={15} /> Proof
        </Button>
      </Dialog.Trigger>
      <Panel className="w-[30rem] max-w-[94vw] p-6">
        <Making picture={picture} />
      </Panel>
    </Dialog.Root>
  );
}

function Making({ picture }: { picture: () => string }) {
  // Seen now: behind the panel it may be drawn anew.
  const [seen] = useState(picture);
  const [words, setWords] = useState({ shop: localStorage.getItem(SHOP) ?? "", price: "", note: "" });
  const set = (change: Partial<typeof words>) => setWords({ ...words, ...change });
  const make = (page: Page, signal: AbortSignal, request: string) => {
    const { revision } = useTimeline.getState();
    localStorage.setItem(SHOP, words.shop);
    return api.proof({ document: now(), revision, picture: seen, ...words, ...page }, signal, request);
  };
  return (
    <>
      <PanelTitle title="Proof" />
      {seen && (
        <img
          alt="The piece as it is seen"
          src={`data:image/png;base64,${seen}`}
          className="mt-3 max-h-52 w-full rounded-xl bg-bench object-contain"
        />
      )}
      <p className="mt-3 text-soft">
        One page with pictures, size, materials and words in plain type. The design itself does not leave with
        it.
      </p>
      <div className="mt-3 grid grid-cols-2 gap-2">
        <Word label="Shop" value={words.shop} most={80} onChange={(shop) => set({ shop })} />
        <Word label="Price" value={words.price} most={40} onChange={(price) => set({ price })} />
        <div className="col-span-2">
          <Word label="Note" value={words.note} most={400} onChange={(note) => set({ note })} />
        </div>
      </div>
      <SavePage what="proof" make={make} />
    </>
  );
}

/** Whose proofs these are, on this machine. */
const SHOP = "tinhalo.shop";

type WordProps = { label: string; value: string; most: number; onChange: (text: string) => void };

function Word({ label, value, most, onChange }: WordProps) {
  return (
    <label className="flex flex-col text-soft text-xs">
      {label}
      <input
        value={value}
        maxLength={most}
        className="h-8 rounded-lg border border-line bg-sheet px-2 text-base text-ink"
        onChange={(event) => onChange(readable(event.target.value))}
      />
    </label>
  );
}
