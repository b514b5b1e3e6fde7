// The nodes of an outline on the stage: taken by a click or a loop around them, dragged, and moved by keys. Only nodes
// of this outline are taken, so that what follows from it is never caught.

import { type KeyboardEvent, type MouseEvent, type PointerEvent, useEffect, useMemo, useRef } from "react";
import { patchOutline } from "../document/art";
import { outlineName } from "../document/names";
import {
  findNode,
  handleOf,
  insideLoop,
  isSmooth,
  moveHandle,
  moveNodes,
  type Ring,
  readRings,
  type Side,
  writeRings,
} from "../document/outline";
import { type Point, placed, unplaced } from "../document/place";
import type { OutlineArt } from "../document/types";
import { pair } from "../stage/frame";
import type { View } from "../stage/view";
import { select, useSelection } from "../state/selection";
import { edit } from "../state/timeline";
import { arrow, onDrawing, useDrag, wayOf } from "../ui/drag";
import { type Edge, edgePath, edgesOf, nearest, outlinePath, shownNodes, stepped } from "./edges";
import { Loop } from "./Loop";
import { editOutline } from "./turning";

type Props = { art: OutlineArt; view: View; size: { width: number; height: number } };

/** More at once are no help, and slow. */
const MOST = 1200;
const HANDLES_OF = 40;
const SIDES: Side[] = ["leaving", "arriving"];

export function StageNodes({ art, view, size }: Props) {
  const group = useRef<SVGGElement>(null);
  const nodes = useSelection((state) => state.nodes);
  const taken = useMemo(() => new Set(nodes), [nodes]);
  const rings = useMemo(() => readRings(art.path), [art.path]);
  const at = (point: Point): Point => {
    const there = placed(art.place, point);
    return { x: view.x + there.x * view.scale, y: view.y - there.y * view.scale };
  };
  const all = shownNodes(rings, at);
  const inSight = all.filter(
    ({ point: { x, y } }) => x > -20 && y > -20 && x < size.width + 20 && y < size.height + 20,
  );
  const write = (next: Ring[], gesture: string) =>
    edit((design) => patchOutline(design, art.id, { path: writeRings(next) }), `${art.id}.${gesture}`);

  useEffect(() => {
    group.current?.focus({ preventScroll: true });
  }, []);

  const take = (wanted: number[], also: boolean) => {
    if (!also) return select({ nodes: wanted });
    const rest = nodes.filter((node) => !wanted.includes(node));
    // What is taken already is let go, as elsewhere.
    select({ nodes: rest.length === nodes.length - wanted.length ? rest : [...rest, ...wanted] });
  };

  const drag = useDrag<{ rings: Ring[]; nodes: Set<number>; node: number }>({
    begin: (event) => {
      const node = numberOf(event, "data-node");
      const held = !taken.has(node) && !event.shiftKey ? new Set([node]) : taken;
      return { rings, nodes: held, node };
    },
    move: (start, event, from) => {
      if (start.nodes !== taken && nodes[0] !== start.node) select({ nodes: [...start.nodes] });
      write(moveNodes(start.rings, start.nodes, unplaced(art.place, wayOf(event, from, view))), "nodes");
    },
    click: ({ node }, event) => take([node], event.shiftKey),
  });
  const dragHandle = useDrag<{ rings: Ring[]; node: number; side: Side; from: Point }>({
    begin: (event) => {
      const node = numberOf(event, "data-handle");
      const side = (event.currentTarget as Element).getAttribute("data-side") as Side;
      const found = findNode(rings, node);
      const from = found && handleOf(rings[found.ring] as Ring, found.at, side);
      return { rings, node, side, from: from ?? { x: 0, y: 0 } };
    },
    move: (start, event, from) => {
      const by = unplaced(art.place, wayOf(event, from, view));
      const to = { x: start.from.x + by.x, y: start.from.y + by.y };
      write(moveHandle(start.rings, start.node, start.side, to, event.altKey), "handle");
    },
  });

  const keys = (event: KeyboardEvent) => {
    const by = arrow(event);
    const last = nodes.at(-1);
    if (by && nodes.length > 0) write(moveNodes(rings, taken, unplaced(art.place, by)), "keys");
    else if ((event.key === "Delete" || event.key === "Backspace") && nodes.length > 0)
      void editOutline(art.id, { op: "remove_nodes", nodes });
    else if (event.key === "PageDown" || event.key === "PageUp") {
      const next = stepped(rings, last, event.key === "PageDown" ? 1 : -1);
      take([next], event.shiftKey && !taken.has(next));
    } else if (event.key.toLowerCase() === "a" && (event.ctrlKey || event.metaKey))
      select({ nodes: all.map(({ node }) => node) });
    else if (event.key === "Escape")
      select(nodes.length > 0 ? { nodes: [] } : { nodal: null, picked: art.id });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const edges = useMemo(() => edgesOf(rings), [rings]);

  const onEdge = ({ ring, k, node, next }: Edge) => ({
    onPointerDown: (event: PointerEvent) => event.button === 0 && event.stopPropagation(),
    onClick: (event: MouseEvent) => take([node, next], event.shiftKey),
    onDoubleClick: (event: MouseEvent) => {
      event.stopPropagation();
      const to = nearest(ring, k, at, onDrawing(event, group.current));
      void editOutline(art.id, { op: "add_node", segment: node, at: to }, [node + 1]);
    },
  });
  const onNode = { ...drag, onDoubleClick: (event: MouseEvent) => event.stopPropagation() };

  return (
    <g
      ref={group}
      role="group"
      tabIndex={0}
      data-testid="nodes"
      aria-label={`Nodes of “${outlineName(art)}”, ${nodes.length} of ${all.length} taken: page up and down walk through them, arrow keys move what is taken, Delete takes it out, Escape is done`}
      className="outline-none"
      onKeyDown={keys}
      onPointerUp={() => group.current?.focus({ preventScroll: true })}
    >
      <Loop
        size={size}
        found={(loop, also) =>
          take(
            all.filter(({ point }) => insideLoop(loop, point)).map(({ node }) => node),
            also,
          )
        }
      />
      <path
        d={outlinePath(rings, at)}
        className="pointer-events-none fill-none stroke-halo"
        strokeWidth={1.5}
      />
      {edges.length <= MOST &&
        edges.map(({ ring, k, node, next }) => (
          <path
            key={node}
            d={edgePath(ring, k, at)}
            data-testid="edge"
            className={`pointer-events-auto cursor-pointer fill-none ${taken.has(node) && taken.has(next) ? "stroke-halo" : "stroke-transparent"}`}
            strokeWidth={taken.has(node) && taken.has(next) ? 3 : 9}
            {...onEdge({ ring, k, node, next })}
          />
        ))}
      {taken.size <= HANDLES_OF &&
        inSight
          .filter(({ node }) => taken.has(node))
          .flatMap(({ node, ring, at: k, point }) =>
            SIDES.flatMap((side) => {
              const handle = handleOf(ring, k, side);
              if (!handle) return [];
              const there = at(handle);
              return (
                <g key={`${node}${side}`}>
                  <path d={`M${pair(point)}L${pair(there)}`} className="pointer-events-none stroke-halo" />
                  <circle
                    cx={there.x}
                    cy={there.y}
                    r={4}
                    data-handle={node}
                    data-side={side}
                    data-testid="handle"
                    className="pointer-events-auto cursor-move fill-glow stroke-halo"
                    {...dragHandle}
                  />
                </g>
              );
            }),
          )}
      {inSight.slice(0, MOST).map(({ node, ring, at: k, point }) => {
        const round = isSmooth(ring, k);
        const r = taken.has(node) ? 5 : 3.5;
        return (
          <rect
            key={node}
            x={point.x - r}
            y={point.y - r}
            width={2 * r}
            height={2 * r}
            rx={round ? r : 1}
            data-node={node}
            data-testid="node"
            data-taken={taken.has(node)}
            className={`pointer-events-auto cursor-move stroke-halo ${taken.has(node) ? "fill-halo" : "fill-sheet"}`}
            strokeWidth={1.5}
            {...onNode}
          />
        );
      })}
      {inSight.length > MOST && (
        <text x={size.width / 2} y={size.height - 60} textAnchor="middle" className="fill-soft">
          Too many nodes to see all of them: zoom in
        </text>
      )}
    </g>
  );
}

function numberOf(event: PointerEvent, name: string): number {
  return Number((event.currentTarget as Element).getAttribute(name));
}
