// The hand-over: which files leave and what they say, what is still open, and the download.

import { Download, TriangleAlert } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import type { Cause } from "../../api/answers";
import { boardsOf, setMirror } from "../../document/handOver";
import { isOpenCause } from "../../findings/findings";
import { SendButton } from "../../machines/SendTo";
import { SheetsButton } from "../../sheets/Sheets";
import { flush } from "../../state/autosave";
import type { Building } from "../../state/building";
import { useSaving } from "../../state/saving";
import { edit, useDesign, usePart, useTimeline } from "../../state/timeline";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { Panel, PanelBody, PanelFoot, PanelTitle } from "../../ui/Panel";
import { Boards } from "./Boards";
import { Formats } from "./Formats";
import { LiningUp } from "./LiningUp";
import { Mill } from "./Mill";
import { Paths } from "./Paths";
import { ProcessTable } from "./ProcessTable";
import { Solids } from "./Solids";

export function HandOver({ building }: { building: Building }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button look="main">Hand over</Button>
      </Dialog.Trigger>
      <Panel className="flex max-h-[88vh] w-[50rem] max-w-[94vw] flex-col overflow-hidden">
        <Pack building={building} />
      </Panel>
    </Dialog.Root>
  );
}

/** What leaves. */
function Pack({ building }: { building: Building }) {
  const design = useDesign();
  const id = useTimeline((state) => state.id);
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const boards = boardsOf(design);
  const leaving = boards.reduce((sum, board) => sum + board.layers.length, 0);
  const staying = design.layers.length - leaving;
  const causes = building.built?.causes ?? [];

  const download = async () => {
    setBusy(true);
    setTrouble("");
    await flush();
    if (useSaving.getState().saving !== "saved") {
      setTrouble("The last changes could not be saved, so the pack would be out of date. Settle that first.");
    } else {
      const link = document.createElement("a");
      link.href = `/api/designs/${id}/pack.zip`;
      link.download = "";
      link.click();
    }
    setBusy(false);
  };

  return (
    <>
      <PanelBody>
        <PanelTitle title="The cut pack" />
        <p className="mt-1 text-soft">
          A file for every layer, one for every board as it can be cut of it, one with all layers in register
          to look at, and a list of measures. All at true size.
        </p>
        <Formats />
        <Boards boards={boards} reply={building.built?.reply ?? null} />
        {leaving === 0 && <p className="mt-3 text-alarm">No layer leaves: all are hidden or guides.</p>}
        {staying > 0 && (
          <p className="mt-2 text-soft text-xs">
            {staying === 1 ? "1 layer stays here: it is" : `${staying} layers stay here: they are`} hidden or
            a guide.
          </p>
        )}
        <Mirror />
        <LiningUp />
        <Paths />
        <SheetsButton of="design" />
        <Solids />
        <Mill />
        <ProcessTable />
        <StillOpen causes={causes} />
        {trouble && (
          <p role="alert" className="mt-4 text-alarm">
            {trouble}
          </p>
        )}
      </PanelBody>
      <PanelFoot>
        <SendButton disabled={leaving === 0} />
        <Button look="main" onClick={download} disabled={busy || leaving === 0}>
          <Download size={16} /> Download cut pack (zip)
        </Button>
      </PanelFoot>
    </>
  );
}

const MIRROR = [
  {
    options: [
      { value: "as_material" as const, text: "as the material asks" },
      { value: "all" as const, text: "all" },
      { value: "none" as const, text: "none" },
    ],
  },
];

function Mirror() {
  const mirror = usePart((design) => design.hand_over.mirror);
  return (
    <p className="mt-3">
      Files swapped left for right, once and last:{" "}
      <Choice
        label="Files swapped left for right"
        inline
        value={mirror}
        groups={MIRROR}
        onChange={(next) => edit((design) => setMirror(design, next))}
      />
    </p>
  );
}

function StillOpen({ causes }: { causes: Cause[] }) {
  const open = causes.filter(isOpenCause);
  const letBe = causes.filter((one) => one.accepted).reduce((sum, one) => sum + one.count, 0);
  return (
    <>
      {open.length > 0 && (
        <div className="mt-4 rounded-xl border border-alarm/50 p-3">
          <p className="flex items-center gap-2 font-semibold text-alarm">
            <TriangleAlert size={16} aria-hidden="true" /> Still open
          </p>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls must be reached by keyboard */}
          <ul tabIndex={0} aria-label="Still open" className="mt-1 max-h-40 list-disc overflow-y-auto pl-5">
            {open.map((cause) => (
              <li key={cause.id}>{cause.sentence}</li>
            ))}
          </ul>
        </div>
      )}
      {letBe > 0 && (
        <p className="mt-2 text-soft text-xs">
          {letBe === 1 ? "1 finding was" : `${letBe} findings were`} let be on purpose.
        </p>
      )}
    </>
  );
}
