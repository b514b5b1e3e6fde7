// One name as it comes out: what to know of it, mends for it alone, and the way to change it alone.

import { PencilRuler, TriangleAlert, Undo2 } from "lucide-react";
import { memo } from "react";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { keepOwn } from "../document/nameList";
import { edit, useTimeline } from "../state/timeline";
import { Button } from "../ui/Button";
import { attempt } from "../ui/Failure";
import { mendRows } from "./mendRows";
import type { Made } from "./useWall";

type Props = { made: Made; index: number; design: string };

export const NameCard = memo(function NameCard({ made, index, design }: Props) {
  return (
    <li
      className="flex flex-col overflow-hidden rounded-xl border border-line [contain-intrinsic-size:auto_14rem] [content-visibility:auto]"
      data-testid={`name-${index}`}
    >
      <span className="flex h-28 items-center justify-center bg-bench p-2">
        <img
          alt=""
          src={`data:image/svg+xml,${encodeURIComponent(made.picture)}`}
          className="max-h-full max-w-full"
        />
      </span>
      <div className="flex flex-1 flex-col gap-0.5 px-3 py-1.5">
        <span className="truncate font-semibold">
          <span className="text-soft">{index + 1}</span> <bdi>{made.words}</bdi>
          {made.copies !== 1 && <span className="text-soft"> × {made.copies}</span>}
        </span>
        {made.told.map((sentence) => (
          <span key={sentence} className="text-soft text-xs">
            {sentence}
          </span>
        ))}
        {made.open.map(({ kind, layer, sentence, mend }) => (
          <span key={`${kind} ${layer}`} className="text-alarm text-xs">
            <TriangleAlert size={13} className="mr-1 inline" aria-hidden="true" />
            {sentence}{" "}
            {mend && (
              <button
                type="button"
                className="text-ink underline decoration-dotted underline-offset-2"
                title="For this name alone"
                onClick={() => void mendRows([index], kind, layer)}
              >
                {mend}
              </button>
            )}
          </span>
        ))}
        <Actions made={made} design={design} />
      </div>
    </li>
  );
});

function Actions({ made, design }: { made: Made; design: string }) {
  const go = useNavigate();
  const list = useTimeline((state) => state.id);
  const open = async () => {
    const name = `${design}, ${made.words}`.slice(0, 200);
    const of_list = { design: list, words: made.words };
    const kept = await attempt("names", () => api.create({ ...made.document, name, of_list }));
    if (kept) go(`/design/${kept.id}`);
  };
  return (
    <span className="mt-auto flex flex-wrap gap-1">
      <Button
        look="quiet"
        className="-ml-2 h-7 px-2"
        title="On the bench; what is changed there can be kept for this name"
        onClick={() => void open()}
      >
        <PencilRuler size={14} /> Change it alone
      </Button>
      {made.own && (
        <Button
          look="quiet"
          className="-ml-2 h-7 px-2"
          title="Take back what is different for this name alone"
          onClick={() => edit((now) => keepOwn(now, [{ words: made.words, changes: [] }]))}
        >
          <Undo2 size={14} /> As the others
        </Button>
      )}
    </span>
  );
}
