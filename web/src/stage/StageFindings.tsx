// Findings on the stage: a mark at each place, and the outline of the one that is looked at.

import type { Finding } from "../api/answers";
import { FindingShape } from "../findings/FindingMark";
import { keyOf } from "../findings/findings";
import type { Building } from "../state/building";
import { select, selectLayer, useSelection } from "../state/selection";
import type { View } from "./view";

/** Marks nearer to each other than this, in pixels, are one. */
const NEAR_PX = 20;

type Place = [number, number];
type Spot = { x: number; y: number };

const apart = (one: Spot, other: Spot) => Math.hypot(one.x - other.x, one.y - other.y);

export function StageFindings({ building, view }: { building: Building; view: View }) {
  const looked = useSelection((state) => state.finding);
  const built = building.built;
  // While something changes, the places are those of outlines that are gone.
  if (!built?.checked) return null;
  const placed = built.findings.filter((finding) => finding.at !== null);
  const at = ([x, y]: [number, number]) => ({ x: view.x + x * view.scale, y: view.y - y * view.scale });
  const ring = (points: [number, number][]) =>
    `M${points.map((point) => `${at(point).x.toFixed(1)},${at(point).y.toFixed(1)}`).join("L")}Z`;
  // One mark stands for places that lie close together; the one that is looked at has its own.
  const marks: { finding: Finding; count: number }[] = [];
  for (const finding of placed) {
    const near = marks.find((mark) => apart(at(mark.finding.at as Place), at(finding.at as Place)) < NEAR_PX);
    if (near && keyOf(finding) !== looked && keyOf(near.finding) !== looked) near.count++;
    else marks.push({ finding, count: 1 });
  }
  return (
    <g data-testid="findings">
      {placed
        .filter((finding) => keyOf(finding) === looked)
        .map((finding) => (
          <path
            key={keyOf(finding)}
            d={finding.outline.map((points) => ring(points as [number, number][])).join("")}
            fillRule="evenodd"
            className="pointer-events-none fill-alarm/25 stroke-alarm"
            strokeWidth={1.5}
          />
        ))}
      {marks.map(({ finding, count }) => {
        const { x, y } = at(finding.at as [number, number]);
        const key = keyOf(finding);
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: as above
          <g
            key={key}
            data-finding={finding.kind}
            transform={`translate(${x} ${y}) scale(${key === looked ? 1.25 : 0.85})`}
            className="pointer-events-auto cursor-pointer"
            onPointerDown={(event) => event.stopPropagation()}
            onClick={() => {
              selectLayer(finding.layer);
              select({ finding: key });
            }}
          >
            <title>{count > 1 ? `${finding.sentence} And ${count - 1} more here.` : finding.sentence}</title>
            {key === looked && <path d="M0,0V-14" className="stroke-alarm" strokeWidth={1.2} />}
            {/* The one that is looked at stands aside, so that its place can be seen. */}
            <g transform={key === looked ? "translate(0 -22)" : undefined}>
              <circle r="11" className="fill-transparent" />
              <FindingShape finding={finding} />
            </g>
          </g>
        );
      })}
    </g>
  );
}
