// All that leaves of a list in one file: packs, sheets, a check list, quantities. It takes a while, and can be given up.

import { Download } from "lucide-react";
import { useRef, useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { namesOf } from "../document/nameList";
import type { Design } from "../document/types";
import { Button } from "../ui/Button";
import { useRequestName, Waiting } from "../ui/Waiting";

export function Packs({ design }: { design: Design }) {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const gone = useRef<AbortController | null>(null);
  const name = useRequestName();
  const count = namesOf(design).rows.length;
  const download = async () => {
    const asked = new AbortController();
    gone.current = asked;
    setBusy(true);
    setTrouble("");
    try {
      const data = await api.listPacks(design, asked.signal, name);
      const link = document.createElement("a");
      link.href = URL.createObjectURL(data);
      link.download = `${design.name || "design"} ${count} packs.zip`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
    } catch (error) {
      if (asked.signal.aborted) return;
      if (!(error instanceof Problem)) throw error;
      setTrouble(error.sentence);
    } finally {
      setBusy(false);
    }
  };
  if (count === 0) return null;
  return (
    <>
      <Waiting what="Making the packs" name={name} busy={busy} cancel={() => gone.current?.abort()} />
      {trouble && (
        <span role="alert" className="text-alarm">
          {trouble}
        </span>
      )}
      <Button
        look="main"
        disabled={busy}
        title="A pack for each row, sheets if they are laid, a check list and quantities"
        onClick={() => void download()}
      >
        <Download size={16} /> Download all {count} packs (zip)
      </Button>
    </>
  );
}
