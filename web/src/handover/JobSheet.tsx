// The job sheet, opened beside: it is shown by the browser, which prints and saves it.

import { ClipboardList } from "lucide-react";
import { flush } from "../state/autosave";
import { useTimeline } from "../state/timeline";
import { Button } from "../ui/Button";

export function JobSheet() {
  const id = useTimeline((state) => state.id);
  const open = async () => {
    // Opened at once: a window that comes later would be held back.
    const sheet = window.open("about:blank");
    await flush();
    if (sheet) sheet.location.href = `/api/designs/${id}/job-sheet.pdf`;
  };
  return (
    <Button
      look="quiet"
      className="px-2"
      title="One or two pages for whoever makes it"
      onClick={() => void open()}
    >
      <ClipboardList size={15} /> Job sheet
    </Button>
  );
}
