// Art on the stage: words and shapes are picked; what is picked has a frame.

import { useState } from "react";
import type { ArtReply } from "../api/client";
import { isLettering } from "../document/art";
import { type Box, type Point, placed } from "../document/place";
import { useSelection } from "../state/selection";
import { usePart } from "../state/timeline";
import { StageLetters } from "../words/StageLetters";
import { ArtFrame } from "./ArtFrame";
import { corners, pair } from "./frame";
import { Pickable } from "./Pickable";
import type { View } from "./view";

type Props = { art: ArtReply[]; view: View };

export function StageArt({ art: replies, view }: Props) {
  const all = usePart((design) => design.art);
  const picked = useSelection((state) => state.picked);
  const also = useSelection((state) => state.also);
  const typing = useSelection((state) => state.typing);
  const [lines, setLines] = useState<{ x?: number; y?: number }>({});
  const at = (point: Point) => ({ x: view.x + point.x * view.scale, y: view.y - point.y * view.scale });
  // What is smaller is on top: words that stand in a shape can be picked.
  const stacked = replies
    .flatMap((reply) => {
      const art = all.find((one) => one.id === reply.id);
      return art && reply.box_mm && reply.bounds_mm ? [{ art, reply, box: reply.box_mm }] : [];
    })
    .toSorted((a, b) => size(b.reply.bounds_mm) - size(a.reply.bounds_mm));
  return (
    <g>
      {stacked.map(({ art, reply, box }) => {
        if (art.id === typing) return null;
        const points = corners(box)
          .map((corner) => pair(at(placed(art.place, corner))))
          .join(" ");
        if (art.id !== picked) return <Pickable key={art.id} art={art} points={points} view={view} />;
        const props = { art, reply, box, view, at, setLines, others: boxes(replies, [art.id, ...also]) };
        const { parts } = reply;
        return isLettering(art) ? (
          <ArtFrame key={art.id} {...props}>
            {(framed) => parts && <StageLetters words={art} letters={parts} framed={framed} />}
          </ArtFrame>
        ) : (
          <ArtFrame key={art.id} {...props} />
        );
      })}
      <g className="pointer-events-none stroke-glow" strokeDasharray="3 3">
        {lines.x !== undefined && <path d={`M${at({ x: lines.x, y: 0 }).x},-9999V9999`} />}
        {lines.y !== undefined && <path d={`M-9999,${at({ x: 0, y: lines.y }).y}H9999`} />}
      </g>
    </g>
  );
}

function size(box: Box | null): number {
  return box ? (box[2] - box[0]) * (box[3] - box[1]) : 0;
}

function boxes(art: ArtReply[], except: string[]): Box[] {
  return art.flatMap((one) => (!except.includes(one.id) && one.bounds_mm ? [one.bounds_mm] : []));
}
