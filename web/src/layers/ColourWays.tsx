// Colour ways: the same layers in other materials and colours, side by side, each taken with one click.

import { useQuery } from "@tanstack/react-query";
import { Palette, Trash2 } from "lucide-react";
import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { dropWay, isWorn, keepWay, wear } from "../document/colourWays";
import { readable } from "../document/readable";
import { ContactSheet } from "../paper/ContactSheet";
import { edit, now, useDesign } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { Panel, PanelTitle } from "../ui/Panel";

export function ColourWays() {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <IconButton label="Colour ways: other materials and colours for the same layers">
          <Palette size={16} />
        </IconButton>
      </Dialog.Trigger>
      <Panel className="max-h-[88vh] w-[46rem] max-w-[94vw]" scrolls>
        <Ways />
      </Panel>
    </Dialog.Root>
  );
}

function Ways() {
  const design = useDesign();
  const [name, setName] = useState("");
  const { data, error } = useQuery({
    queryKey: ["ways", JSON.stringify([design.art, design.layers, design.colour_ways, design.materials])],
    queryFn: ({ signal }) => api.colourWays(design, signal),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    retry: false,
  });
  const keep = (event: FormEvent) => {
    event.preventDefault();
    const called = name.trim();
    if (!called) return;
    edit((now) => keepWay(now, called));
    setName("");
  };
  const again = design.colour_ways.some((one) => one.name === name.trim());
  return (
    <>
      <PanelTitle title="Colour ways" />
      <p className="mt-1 text-soft">
        Materials, colours and patterns of all layers under a name: spring, the team's, the shop's. Taking one
        changes nothing else, and can be undone.
      </p>
      <ul className="mt-3 grid grid-cols-3 gap-3 max-sm:grid-cols-2">
        <Card
          title="As it is now"
          picture={data?.now}
          worn={!design.colour_ways.some((one) => isWorn(design, one))}
        />
        {design.colour_ways.map((way, index) => (
          <Card
            key={way.name}
            title={way.name}
            picture={data?.ways[index]}
            worn={isWorn(design, way)}
            take={() => edit((now) => wear(now, way))}
            drop={() => edit((now) => dropWay(now, way.name))}
          />
        ))}
      </ul>
      {error && (
        <p role="alert" className="mt-2 text-alarm">
          {error instanceof Problem ? error.sentence : "They cannot be shown."}
        </p>
      )}
      <form onSubmit={keep} className="mt-4 flex items-center gap-2">
        <input
          value={name}
          maxLength={80}
          aria-label="Name for these colours"
          placeholder="Keep these colours as…"
          className="h-9 min-w-0 flex-1 rounded-lg border border-line bg-paper px-3"
          onChange={(event) => setName(readable(event.target.value))}
        />
        <Button look="main" type="submit" disabled={!name.trim() || design.colour_ways.length >= 50}>
          {again ? "Keep instead" : "Keep"}
        </Button>
        {design.colour_ways.length > 0 && (
          <ContactSheet
            about="All colour ways side by side on one page, each with its name."
            make={(sheet, signal, request) => api.waysSheet({ document: now(), ...sheet }, signal, request)}
          />
        )}
      </form>
    </>
  );
}

type CardProps = {
  title: string;
  picture: string | undefined;
  worn: boolean;
  take?: () => void;
  drop?: () => void;
};

function Card({ title, picture, worn, take, drop }: CardProps) {
  const shown = (
    <span className="flex aspect-[4/3] items-center justify-center bg-bench p-2">
      {picture && (
        <img
          alt=""
          src={`data:image/svg+xml,${encodeURIComponent(picture)}`}
          className="max-h-full max-w-full"
        />
      )}
    </span>
  );
  return (
    <li
      className={`overflow-hidden rounded-xl border ${worn ? "border-halo ring-2 ring-halo/40" : "border-line"}`}
      data-worn={worn}
    >
      {take ? (
        <button
          type="button"
          aria-label={`Take ${title}`}
          className="block w-full hover:opacity-85"
          onClick={take}
        >
          {shown}
        </button>
      ) : (
        shown
      )}
      <div className="flex h-9 items-center gap-1 pr-1 pl-3">
        <span className="min-w-0 flex-1 truncate font-semibold" title={title}>
          {title}
        </span>
        {drop && (
          <IconButton label={`Delete ${title}`} onClick={drop}>
            <Trash2 size={15} />
          </IconButton>
        )}
      </div>
    </li>
  );
}
