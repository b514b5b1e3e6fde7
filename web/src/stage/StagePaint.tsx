// What a printed layer is filled with over its colour, as the server says: one tile that comes again, or a picture.

import type { BuildReply } from "../api/client";

export type Paint = NonNullable<BuildReply["layers"][number]["paint"]>;

/** Path data filled with a paint; `id` is of the layer. */
export function StagePaint({ id, paint, path }: { id: string; paint: Paint; path: string }) {
  const size = { width: paint.width_mm, height: paint.height_mm };
  // A pattern's tile begins at its upper left corner, ours at the lower one.
  const moved = `matrix(${paint.matrix.join(" ")}) translate(0 ${-paint.height_mm})`;
  return (
    <g stroke="none">
      <pattern id={`paint-${id}`} patternUnits="userSpaceOnUse" patternTransform={moved} {...size}>
        <g transform={`translate(0 ${paint.height_mm})`}>
          {paint.figures.map((figure) => (
            <path key={figure.path} d={figure.path} fill={figure.colour} />
          ))}
        </g>
        {paint.file && (
          <image {...size} preserveAspectRatio="none" href={`/api/files/${paint.file}/picture`} />
        )}
      </pattern>
      <path d={path} fill={`url(#paint-${id})`} pointerEvents="none" data-testid="paint" />
    </g>
  );
}
