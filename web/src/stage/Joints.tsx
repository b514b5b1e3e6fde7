// What holds and what does not: loose letters and dots are hatched, seams between united letters are drawn on demand.

import type { ArtReply } from "../api/client";
import { isLettering } from "../document/art";
import { usePart } from "../state/timeline";

export function Joints({ art }: { art: ArtReply[] }) {
  const blocks = usePart((design) => design.art);
  // Plain capitals are not meant to hang together: only where letters are closed up is a loose one a fault.
  const joined = new Set(blocks.filter((one) => isLettering(one) && one.join).map((one) => one.id));
  return (
    <g pointerEvents="none" data-testid="joints">
      <defs>
        <pattern
          id="loose"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="scale(0.12) rotate(45)"
        >
          <rect width="3" height="6" className="fill-alarm" />
        </pattern>
      </defs>
      {art.flatMap((block) =>
        block.words.flatMap((word, w) =>
          word.loose
            .filter((one) => one.path && one.why !== "apart")
            .map((one, index) => (
              <path
                // biome-ignore lint/suspicious/noArrayIndexKey: pieces have no identity but their order
                key={`${block.id}-${w}-${index}`}
                data-loose={one.name}
                d={one.path}
                fillRule="evenodd"
                fill={joined.has(block.id) && one.why === "letters" ? "url(#loose)" : "none"}
                vectorEffect="non-scaling-stroke"
                strokeWidth={1.8}
                strokeDasharray={joined.has(block.id) && one.why === "letters" ? undefined : "3 2"}
                className="stroke-alarm"
              />
            )),
        ),
      )}
      {art.map(
        (block) =>
          block.seams && (
            <path
              key={block.id}
              data-seams={block.id}
              d={block.seams}
              fill="none"
              vectorEffect="non-scaling-stroke"
              strokeWidth={1.2}
              strokeDasharray="4 3"
              className="stroke-glow"
            />
          ),
      )}
    </g>
  );
}
