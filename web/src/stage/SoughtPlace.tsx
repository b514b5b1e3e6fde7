// Where a search for a place looks: the art's frame, and the layers that are made from it alone.

import { useSeeking } from "../findings/seeking";
import type { Building } from "../state/building";
import { useDesign } from "../state/timeline";

export function SoughtPlace({ building, scale }: { building: Building; scale: number }) {
  const line = useSeeking((state) => state.seeking?.line);
  const design = useDesign();
  const { built } = building;
  if (!line?.shown || !built) return null;
  // Maps have y up, drawings down.
  const [a, b, c, d, e, f] = line.shown;
  const own = design.layers.filter(
    ({ recipe, hidden }) =>
      !hidden && recipe.from?.length && recipe.from.every((id) => line.art.includes(id)),
  );
  const boxes = built.reply.art.flatMap((one) =>
    line.art.includes(one.id) && one.bounds_mm ? [one.bounds_mm] : [],
  );
  return (
    <g
      data-testid="sought-place"
      transform={`matrix(${a} ${-b} ${-c} ${d} ${e} ${-f})`}
      className="pointer-events-none fill-halo/25 stroke-halo"
      strokeWidth={1 / scale}
      fillRule="evenodd"
    >
      {own.map((layer) => (
        <path key={layer.id} d={built.paths.get(layer.id)} />
      ))}
      {boxes.map(([x0, y0, x1, y1]) => (
        <rect
          key={`${x0} ${y0}`}
          x={x0}
          y={-y1}
          width={x1 - x0}
          height={y1 - y0}
          className="fill-none"
          strokeDasharray={`${4 / scale} ${3 / scale}`}
        />
      ))}
    </g>
  );
}
