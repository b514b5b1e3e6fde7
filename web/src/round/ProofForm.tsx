// A proof for the customer: one page with the piece as it is turned now, its size, materials and words.

import { FileCheck } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api } from "../api/client";
import { type Page, SavePage } from "../paper/SavePage";
import { now, useTimeline } from "../state/timeline";
import { Button } from "../ui/Button";
import { Panel, PanelTitle } from "../ui/Panel";

/** `picture` gives the piece in the round as it is seen, as base64 PNG. */
export function ProofForm({ picture }: { picture: () => string }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button
          look="quiet"
          className="px-2"
          title="A page for the customer, with the piece as it is turned now"
        >
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
  const make = (page: Page, signal: AbortSignal, request: string) => {
    const { revision } = useTimeline.getState();
    return api.proof({ document: now(), revision, picture: seen, ...page }, signal, request);
  };
  return (
    <>
      <PanelTitle title="Proof" />
      <img
        alt="The piece as it is seen"
        src={`data:image/png;base64,${seen}`}
        className="mt-3 max-h-52 w-full rounded-xl bg-bench object-contain"
      />
      <p className="mt-3 text-soft">
        One page with this view, the piece flat with its size, its materials and colours, colour ways, and its
        words in plain type. Opened from the shelf again, it gives the design as it is now.
      </p>
      <SavePage what="proof" make={make} />
    </>
  );
}
