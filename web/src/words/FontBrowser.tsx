// Choose a font by seeing the maker's own words in every one of them, with what matters for cutting beside each.

import { useQueries, useQueryClient } from "@tanstack/react-query";
import { ChevronDown, FilePlus2, Heart, Scale, Trash2 } from "lucide-react";
import { Dialog } from "radix-ui";
import { type DragEvent, useMemo, useRef, useState } from "react";
import { api, type Font } from "../api/client";
import { readable } from "../document/readable";
import type { Lettering } from "../document/types";
import { length } from "../document/units";
import { useFonts } from "../layers/catalogue";
import { useUnit } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { attempt, Failure } from "../ui/Failure";
import { Panel, PanelTitle } from "../ui/Panel";
import { say } from "../ui/toast";
import { droppedFiles, useAddFonts } from "./addingFonts";
import { LocalFonts } from "./LocalFonts";

const KINDS: Record<string, string> = {
  own: "Your own",
  script: "Flowing scripts",
  heavy: "Heavy capitals",
  slab: "Slab",
  athletic: "Athletic",
  rounded: "Rounded",
  stencil: "Stencil",
  sans: "Plain",
};

type Show = "all" | "loved" | string;
type Order = "kind" | "thick";

const LOVED = "tinhalo.loved-fonts";
const LONGEST = 60;

export function FontBrowser({ art, onChange }: { art: Lettering; onChange: (font: string) => void }) {
  const fonts = useFonts();
  const [open, setOpen] = useState(false);
  const chosen = fonts.find((font) => font.id === art.font);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger
        aria-label="Font"
        className="flex h-8 min-w-0 items-center gap-1 rounded-lg border border-line bg-sheet px-2.5 hover:border-soft"
      >
        <span
          className="min-w-0 flex-1 truncate text-left text-lg leading-7"
          style={chosen && { fontFamily: `"th-${chosen.id}"` }}
        >
          {chosen?.family ?? art.font}
        </span>
        <ChevronDown size={14} className="shrink-0 text-soft" />
      </Dialog.Trigger>
      <Panel className="flex h-[86vh] w-[58rem] max-w-[94vw] flex-col">
        <Browser
          art={art}
          onPick={(font, stay = false) => {
            onChange(font);
            setOpen(stay);
          }}
        />
      </Panel>
    </Dialog.Root>
  );
}

type Add = (files: File[]) => void;
type BrowserProps = { art: Lettering; onPick: (font: string, stay?: boolean) => void };

function Browser({ art, onPick }: BrowserProps) {
  const fonts = useFonts();
  const adding = useAddFonts(onPick);
  const { busy, wrong } = adding;
  const add: Add = (files) => void adding.add(files);
  const [sought, setSought] = useState("");
  const [show, setShow] = useState<Show>("all");
  const [order, setOrder] = useState<Order>("kind");
  const [loved, setLoved] = useLoved();
  const text = art.text.trim().slice(0, LONGEST) || "Words";
  const samples = useQueries({
    queries: fonts.map((font) => ({
      queryKey: ["sample", font.id, text, art.size],
      queryFn: () => api.sample(font.id, text, art.size),
      staleTime: Number.POSITIVE_INFINITY,
      retry: false,
    })),
  });
  const waiting = samples.filter((sample) => sample.isPending).length;
  const rows = fonts
    .map((font, index) => ({ font, sample: samples[index]?.data ?? null }))
    .filter(({ font }) => `${font.family} ${font.style}`.toLowerCase().includes(sought.trim().toLowerCase()))
    .filter(({ font }) => show === "all" || (show === "loved" ? loved.has(font.id) : font.kind === show));
  if (order === "thick") rows.sort((a, b) => (b.sample?.narrowest_mm ?? -1) - (a.sample?.narrowest_mm ?? -1));

  return (
    <>
      <div className="px-6 pt-5 pb-3">
        <PanelTitle title={`Fonts for “${text}”`}>
          {waiting > 0 && (
            <span role="status" className="text-soft text-xs">
              Trying {fonts.length - waiting} of {fonts.length}…
            </span>
          )}
          <AddFont add={add} busy={busy} />
        </PanelTitle>
      </div>
      <div className="flex items-center gap-2 border-line border-b px-6 pb-3">
        <input
          aria-label="Search fonts"
          placeholder="Search by name"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          className="h-8 min-w-0 flex-1 rounded-lg border border-line bg-sheet px-2.5 hover:border-soft"
        />
        <Choice
          label="Show"
          value={show}
          onChange={setShow}
          groups={[
            {
              options: [
                { value: "all", text: "All kinds" },
                { value: "loved", text: "Favourites" },
              ],
            },
            {
              options: Object.entries(KINDS)
                .filter(([kind]) => fonts.some((font) => font.kind === kind))
                .map(([value, label]) => ({ value, text: label })),
            },
          ]}
        />
        <Choice
          label="Order"
          value={order}
          onChange={setOrder}
          groups={[
            {
              options: [
                { value: "kind", text: "By kind" },
                { value: "thick", text: "Thickest thin strokes first" },
              ],
            },
          ]}
        />
      </div>
      <DropZone add={add}>
        {wrong.map((sentence) => (
          <p key={sentence} role="alert" className="mb-3 text-alarm">
            {sentence}
          </p>
        ))}
        <Failure place="fonts" />
        <LocalFonts sought={sought} busy={busy} add={add} />
        <ul className="grid grid-cols-2 items-start gap-3">
          {rows.map(({ font, sample }) => (
            <FontRow
              key={font.id}
              font={font}
              sample={sample}
              chosen={font.id === art.font}
              loved={loved.has(font.id)}
              onLove={() => setLoved(font.id)}
              onPick={() => onPick(font.id)}
            />
          ))}
        </ul>
        {rows.length === 0 && (
          <p className="text-soft">No font matches. Clear the search, or show all kinds.</p>
        )}
      </DropZone>
    </>
  );
}

type RowProps = {
  font: Font;
  sample: Sample | null;
  chosen: boolean;
  loved: boolean;
  onLove: () => void;
  onPick: () => void;
};

function FontRow({ font, sample, chosen, loved, onLove, onPick }: RowProps) {
  const unit = useUnit();
  const [facts, setFacts] = useState(false);
  const name = font.style === "Regular" ? font.family : `${font.family} ${font.style}`;
  return (
    <li className={`rounded-xl border ${chosen ? "border-halo" : "border-line"}`}>
      <button
        type="button"
        aria-label={`Use ${name}`}
        aria-pressed={chosen}
        className="block h-20 w-full rounded-t-xl bg-paper px-3 py-2 hover:bg-bench"
        onClick={onPick}
      >
        <Picture path={sample?.path ?? ""} bounds={sample?.bounds_mm ?? null} />
      </button>
      <div className="flex items-center gap-1 px-3 py-1 text-xs">
        <span className="min-w-0 flex-1">
          <span className="block truncate font-semibold">{name}</span>
          <span className="block truncate text-soft">
            {sample ? verdict(sample) : "…"}
            {sample?.narrowest_mm != null && ` · thinnest ${length(sample.narrowest_mm, unit)}`}
          </span>
        </span>
        <IconButton
          label={loved ? `Take ${name} out of the favourites` : `Make ${name} a favourite`}
          aria-pressed={loved}
          className="size-7"
          onClick={onLove}
        >
          <Heart size={14} className={loved ? "fill-alarm text-alarm" : ""} />
        </IconButton>
        <IconButton
          label={`Licence of ${name}`}
          aria-expanded={facts}
          className="size-7"
          onClick={() => setFacts(!facts)}
        >
          <Scale size={14} />
        </IconButton>
        {font.own && <Remove font={font} name={name} />}
      </div>
      {facts && (
        <div className="border-line border-t px-3 py-2 text-soft text-xs [overflow-wrap:anywhere]">
          <p className="text-ink">
            <span className="font-semibold">May it be sold?</span> {font.selling}
          </p>
          {font.own && <LicenceNote font={font} />}
          <p className="mt-1">{font.facts.licence || "The file names no licence."}</p>
          <p className="mt-1">{font.facts.copyright}</p>
          <p className="mt-1">{font.facts.embedding}</p>
        </div>
      )}
    </li>
  );
}

/** What the maker notes of a licence that was bought; the job sheet says it. */
function LicenceNote({ font }: { font: Font }) {
  const client = useQueryClient();
  const [note, setNote] = useState(font.licence_note);
  const save = async () => {
    if (note.trim() === font.licence_note) return;
    await attempt("fonts", () => api.noteLicence(font.id, note.trim()));
    await client.invalidateQueries({ queryKey: ["fonts"] });
  };
  return (
    <label className="mt-1.5 block">
      Licence bought
      <input
        value={note}
        maxLength={200}
        placeholder="From whom, when, for what"
        className="mt-0.5 h-7 w-full rounded border border-line bg-paper px-1.5 text-ink"
        onChange={(event) => setNote(readable(event.target.value))}
        onBlur={() => void save()}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}

type Sample = Awaited<ReturnType<typeof api.sample>>;

function verdict(sample: Sample): string {
  if (sample.missing.length > 0) return `lacks ${sample.missing.join(" ")}`;
  if (sample.whole) return "one piece";
  return sample.whole_closed_up ? "one piece once closed up" : "in pieces";
}

export function Picture({ path, bounds }: { path: string; bounds: readonly number[] | null }) {
  if (!bounds) return null;
  const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = bounds;
  return (
    <svg
      aria-hidden="true"
      className="h-full w-full fill-ink"
      viewBox={`${x0} ${-y1} ${x1 - x0} ${y1 - y0}`}
      fillRule="evenodd"
    >
      <path d={path} />
    </svg>
  );
}

function Remove({ font, name }: { font: Font; name: string }) {
  const client = useQueryClient();
  const [sure, setSure] = useState(false);
  const remove = async () => {
    if (!sure) return setSure(true);
    await api.removeFont(font.id);
    await client.invalidateQueries({ queryKey: ["fonts"] });
    say(`${name} is removed. Words set in it are kept and show again once it is added.`);
  };
  return (
    <Button look="quiet" className="h-7 px-1.5 text-xs" onClick={remove} onBlur={() => setSure(false)}>
      <Trash2 size={14} aria-label={`Remove ${name}`} /> {sure && "Really remove?"}
    </Button>
  );
}

function AddFont({ add, busy }: { add: Add; busy: boolean }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Font files"
        accept=".ttf,.otf,.ttc,.otc,.woff,.woff2"
        onChange={(event) => {
          add([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <Button
        title="TTF, OTF, TTC, WOFF or WOFF2; or drop files or a folder here"
        disabled={busy}
        onClick={() => input.current?.click()}
      >
        <FilePlus2 size={15} /> {busy ? "Reading…" : "Add your own"}
      </Button>
    </>
  );
}

function DropZone({ add, children }: { add: Add; children: React.ReactNode }) {
  const [over, setOver] = useState(false);
  const drag = (event: DragEvent) => {
    event.preventDefault();
    setOver(event.type === "dragover");
  };
  return (
    <section
      aria-label="Fonts"
      className={`flex-1 overflow-y-auto px-6 py-4 ${over ? "bg-glow/15" : ""}`}
      onDragOver={drag}
      onDragLeave={drag}
      onDrop={(event) => {
        drag(event);
        void droppedFiles(event.dataTransfer.items).then(add);
      }}
    >
      {children}
    </section>
  );
}

/** The maker's favourite fonts, kept in this browser. */
function useLoved(): [Set<string>, (font: string) => void] {
  const [text, setText] = useState(() => localStorage.getItem(LOVED) ?? "");
  const loved = useMemo(() => new Set(text.split(" ").filter(Boolean)), [text]);
  const toggle = (font: string) => {
    const next = new Set(loved);
    if (!next.delete(font)) next.add(font);
    const joined = [...next].join(" ");
    localStorage.setItem(LOVED, joined);
    setText(joined);
  };
  return [loved, toggle];
}
