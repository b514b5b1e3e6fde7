// The hand-over: what leaves, what is still open, and the download.

import { Download, TriangleAlert } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { area, length } from "../document/units";
import { Button } from "../ui/Button";
import { Panel, PanelTitle } from "../ui/Panel";
import { flush } from "./autosave";
import type { Building } from "./building";
import { useMaterials } from "./catalogue";
import { isOpen, keyOf } from "./findings";
import { useBench, useDesign } from "./history";

export function HandOver({ building }: { building: Building }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button look="main">Hand over</Button>
      </Dialog.Trigger>
      <Panel className="max-h-[85vh] w-[34rem] max-w-[92vw] overflow-y-auto p-6">
        <Pack building={building} />
      </Panel>
    </Dialog.Root>
  );
}

/** What leaves. */
function Pack({ building }: { building: Building }) {
  const design = useDesign();
  const materials = useMaterials();
  const id = useBench((bench) => bench.id);
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const unit = design.unit;
  const leaving = design.layers.filter((layer) => !layer.hidden && layer.process !== "guide");
  const staying = design.layers.length - leaving.length;
  const reply = building.built?.reply;
  const findings = building.built?.findings ?? [];
  const open = findings.filter(isOpen);
  const letBe = findings.filter((one) => one.accepted !== null);

  const download = async () => {
    setBusy(true);
    setTrouble("");
    await flush();
    if (useBench.getState().saving !== "saved") {
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
      <PanelTitle title="The cut pack" />
      <p className="mt-1 text-soft">
        One SVG per layer at true size, one with all of them in register, and a list of measures.
      </p>
      <table className="mt-4 w-full text-left">
        <thead className="text-soft text-xs">
          <tr className="border-line border-b">
            <th className="py-1 font-normal">File</th>
            <th className="font-normal">Material</th>
            <th className="font-normal">Area</th>
            <th className="font-normal">To cut</th>
            <th className="font-normal">Pieces</th>
          </tr>
        </thead>
        <tbody>
          {leaving.map((layer) => {
            const measures = reply?.layers.find((one) => one.id === layer.id);
            return (
              <tr key={layer.id} className="border-line border-b">
                <td className="py-1.5 pr-3 font-semibold">{layer.id}.svg</td>
                <td className="pr-3">{materials.find((m) => m.id === layer.material)?.name}</td>
                <td className="whitespace-nowrap pr-3">{area(measures?.area_mm2 ?? 0, unit)}</td>
                <td className="whitespace-nowrap pr-3">
                  {length(measures?.cut_length_mm ?? 0, unit, unit === "mm" ? 0 : 1)}
                </td>
                <td>{measures?.pieces ?? 0}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {leaving.length === 0 && <p className="mt-3 text-alarm">No layer leaves: all are hidden or guides.</p>}
      {staying > 0 && (
        <p className="mt-2 text-soft text-xs">
          {staying === 1 ? "1 layer stays here: it is" : `${staying} layers stay here: they are`} hidden or a
          guide.
        </p>
      )}
      {open.length > 0 && (
        <div className="mt-4 rounded-xl border border-alarm/50 p-3">
          <p className="flex items-center gap-2 font-semibold text-alarm">
            <TriangleAlert size={16} aria-hidden="true" /> Still open
          </p>
          <ul className="mt-1 max-h-48 list-disc overflow-y-auto pl-5">
            {open.map((finding) => (
              <li key={keyOf(finding)}>{finding.sentence}</li>
            ))}
          </ul>
        </div>
      )}
      {letBe.length > 0 && (
        <p className="mt-2 text-soft text-xs">
          {letBe.length === 1 ? "1 finding was" : `${letBe.length} findings were`} let be on purpose.
        </p>
      )}
      {trouble && (
        <p role="alert" className="mt-4 text-alarm">
          {trouble}
        </p>
      )}
      <div className="mt-5 flex justify-end">
        <Button look="main" onClick={download} disabled={busy || leaving.length === 0}>
          <Download size={16} /> Download cut pack (zip)
        </Button>
      </div>
    </>
  );
}
