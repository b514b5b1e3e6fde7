// All that leaves of a list in one file: packs, sheets, a check list, quantities. It takes a while, and can be given up.

import { Download } from "lucide-react";
import { api } from "../api/client";
import { namesOf } from "../document/nameList";
import type { Design } from "../document/types";
import { Button } from "../ui/Button";
import { saveAs } from "../ui/saveAs";
import { useAsked } from "../ui/useAsked";
import { useRequestName, Waiting } from "../ui/Waiting";

export function Packs({ design }: { design: Design }) {
  const { ask, busy, trouble, cancel } = useAsked();
  const name = useRequestName();
  const count = namesOf(design).rows.length;
  const download = () =>
    ask(async (signal) => {
      const data = await api.listPacks(design, signal, name);
      saveAs(data, `${design.name || "design"} ${count} packs.zip`);
    });
  if (count === 0) return null;
  return (
    <>
      <Waiting what="Making the packs" name={name} busy={busy} cancel={cancel} />
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
