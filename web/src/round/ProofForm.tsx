// A proof for the customer: one page with the piece as it is turned now, its size, materials and words.

import { FileCheck } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { now, useTimeline } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";
import { Panel, PanelTitle } from "../ui/Panel";

const PAPERS = [
  { value: "a4" as const, text: "A4" },
  { value: "letter" as const, text: "letter" },
];
const FORMATS = [
  { value: "pdf" as const, text: "PDF" },
  { value: "png" as const, text: "a picture (PNG)" },
];

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
  const [paper, setPaper] = useState<"a4" | "letter">("a4");
  const [format, setFormat] = useState<"pdf" | "png">("pdf");
  const [dots, setDots] = useState(150);
  const [busy, setBusy] = useState<AbortController | null>(null);
  const [trouble, setTrouble] = useState("");
  const make = async () => {
    const gone = new AbortController();
    setBusy(gone);
    setTrouble("");
    try {
      const { revision } = useTimeline.getState();
      const made = await api.proof(
        { document: now(), revision, picture: seen, paper, format, dots_per_inch: dots },
        gone.signal,
      );
      const link = document.createElement("a");
      link.href = URL.createObjectURL(made.data);
      link.download = made.name;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
    } catch (error) {
      if (!gone.signal.aborted)
        setTrouble(error instanceof Problem ? error.sentence : "The proof could not be made.");
    } finally {
      setBusy(null);
    }
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
      <p className="mt-2 leading-8">
        As{" "}
        <Choice
          inline
          label="Kind of proof"
          value={format}
          groups={[{ options: FORMATS }]}
          onChange={setFormat}
        />{" "}
        on{" "}
        <Choice
          inline
          label="Paper of the proof"
          value={paper}
          groups={[{ options: PAPERS }]}
          onChange={setPaper}
        />
        {format === "png" && (
          <>
            , with{" "}
            <NumberField
              inline
              label="Dots to an inch of the proof"
              value={dots}
              unit={null}
              min={50}
              max={600}
              step={50}
              onChange={setDots}
            />{" "}
            dots to an inch
          </>
        )}
        .
      </p>
      {trouble && (
        <p role="alert" className="mt-2 text-alarm">
          {trouble}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        {busy && <Button onClick={() => busy.abort()}>Give up</Button>}
        <Button look="main" disabled={busy !== null} onClick={() => void make()}>
          {busy ? "Making it…" : "Save the proof"}
        </Button>
      </div>
    </>
  );
}
