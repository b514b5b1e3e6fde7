// A page that is made and saved: on which paper, as what, and the button that does it.

import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";
import { saveAs } from "../ui/saveAs";
import { useAsked } from "../ui/useAsked";
import { useRequestName, Waiting } from "../ui/Waiting";

export type Page = { paper: "a4" | "letter"; format: "pdf" | "png"; dots_per_inch: number };

const PAPERS = [
  { value: "a4" as const, text: "A4" },
  { value: "letter" as const, text: "letter" },
];
const FORMATS = [
  { value: "pdf" as const, text: "PDF" },
  { value: "png" as const, text: "a picture (PNG)" },
];

type Props = {
  /** What it is called in labels: "proof". */
  what: string;
  make: (page: Page, signal: AbortSignal, request: string) => Promise<{ data: Blob; name: string }>;
  /** How the sentence of choices goes on. */
  children?: ReactNode;
};

export function SavePage({ what, make, children }: Props) {
  const [page, setPage] = useState<Page>({ paper: "a4", format: "pdf", dots_per_inch: 150 });
  const { ask, busy, trouble, cancel } = useAsked();
  const request = useRequestName();
  const save = () =>
    ask(async (signal) => {
      const made = await make(page, signal, request);
      saveAs(made.data, made.name);
    });
  return (
    <>
      <p className="mt-2 leading-8">
        As{" "}
        <Choice
          inline
          label={`Kind of ${what}`}
          value={page.format}
          groups={[{ options: FORMATS }]}
          onChange={(format) => setPage({ ...page, format })}
        />{" "}
        on{" "}
        <Choice
          inline
          label={`Paper of the ${what}`}
          value={page.paper}
          groups={[{ options: PAPERS }]}
          onChange={(paper) => setPage({ ...page, paper })}
        />
        {page.format === "png" && (
          <>
            , with{" "}
            <NumberField
              inline
              label={`Dots to an inch of the ${what}`}
              value={page.dots_per_inch}
              unit={null}
              min={50}
              max={600}
              step={50}
              onChange={(dots) => setPage({ ...page, dots_per_inch: dots })}
            />{" "}
            dots to an inch
          </>
        )}
        {children}.
      </p>
      {trouble && (
        <p role="alert" className="mt-2 text-alarm">
          {trouble}
        </p>
      )}
      <div className="mt-4 flex items-center justify-end gap-2">
        <Waiting what={`Making the ${what}`} busy={busy} cancel={cancel} name={request} />
        <Button look="main" disabled={busy} onClick={() => void save()}>
          {busy ? "Making it…" : `Save the ${what}`}
        </Button>
      </div>
    </>
  );
}
