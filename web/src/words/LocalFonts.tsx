// The fonts of the computer, where the browser offers them: one is added by a click.

import { useState } from "react";
import { Button } from "../ui/Button";
import { type LocalFont, localFonts } from "./addingFonts";

type Props = { sought: string; busy: boolean; add: (files: File[]) => void };

export function LocalFonts({ sought, busy, add }: Props) {
  const [fonts, setFonts] = useState<LocalFont[] | null>(null);
  const [refused, setRefused] = useState(false);
  if (!localFonts) return null;
  const list = async () => {
    try {
      setFonts((await localFonts?.()) ?? []);
      setRefused(false);
    } catch (error) {
      // Whoever says no to the browser's question.
      if (!(error instanceof DOMException)) throw error;
      setRefused(true);
    }
  };
  const matching = fonts?.filter(({ fullName }) =>
    fullName.toLowerCase().includes(sought.trim().toLowerCase()),
  );
  return (
    <section aria-label="Fonts of this computer" className="mb-4">
      {!fonts && (
        <Button look="quiet" onClick={() => void list()}>
          Fonts of this computer…
        </Button>
      )}
      {refused && <span className="text-alarm">The browser does not let them be listed.</span>}
      {matching && (
        <ul className="flex max-h-40 flex-wrap gap-1 overflow-y-auto">
          {matching.map((font) => (
            <li key={font.postscriptName}>
              <Button
                disabled={busy}
                onClick={async () => add([new File([await font.blob()], `${font.postscriptName}.ttf`)])}
              >
                <span style={{ fontFamily: `"${font.family}"` }}>{font.fullName}</span>
              </Button>
            </li>
          ))}
          {matching.length === 0 && <li className="text-soft">None matches.</li>}
        </ul>
      )}
    </section>
  );
}
