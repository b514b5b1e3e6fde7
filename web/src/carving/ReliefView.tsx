// The carved board in the round, out of the very paths that leave: turned, measured under the pointer, cut through.

import type { ThreeEvent } from "@react-three/fiber";
import { Scissors } from "lucide-react";
import { useMemo, useState } from "react";
import { length } from "../document/units";
import { looksLike, useMaterials } from "../layers/catalogue";
import { TurnedBar, TurnedFrame, TurnedProblem, useTurned } from "../round/Turned";
import type { Box } from "../stage/view";
import { useDesign, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { useRequestName, Waiting } from "../ui/Waiting";
import { LEFT, ReliefMesh, TOO_DEEP } from "./ReliefMesh";
import { cellAt, type Fault, type Relief } from "./relief";
import { type Line, SectionPanel } from "./SectionPanel";
import { useRelief } from "./useRelief";

const CELLS = 1_200;
/** Cells to a side of a triangle, with a graphics card and without. */
const [FINE, COARSE] = [2, 2];

const PAINTS = [
  { value: "wood" as const, text: "as it is carved" },
  { value: "apart" as const, text: "against what is wanted" },
];

export default function ReliefView({ slow }: { slow: boolean }) {
  const design = useDesign();
  const unit = useUnit();
  const materials = useMaterials();
  // What is sunk is a pass of its own, after those of the levels.
  const { levels = [], sunk = [] } = design.carving ?? {};
  const passes = (levels.some((one) => one.layers.length) ? levels.length : 0) + (sunk.length > 0 ? 1 : 0);
  const [which, setWhich] = useState("all");
  const [paint, setPaint] = useState<"wood" | "apart">("wood");
  const [under, setUnder] = useState<{ x: number; y: number; z: number; off: number } | null>(null);
  const [line, setLine] = useState<Line | null>(null);
  const [begun, setBegun] = useState<[number, number] | null>(null);
  const turned = useTurned();
  const wanted = useMemo(() => (which === "all" ? [] : [Number(which)]), [which]);
  const name = useRequestName();
  const { relief, problem, busy, stopped, cancel, again } = useRelief(design, wanted, CELLS, name);
  const board = design.layers.find((layer) => layer.id === design.carving?.board);
  const material = materials.find((one) => one.id === board?.material);
  const thickness = material?.thickness ?? 18;
  const box = useMemo(() => (relief ? boxOf(relief) : null), [relief]);
  const seen = useMemo(() => ({ relief, paint }), [relief, paint]);

  const point = ({ point: { x, y } }: ThreeEvent<PointerEvent>) => {
    const at = relief && cellAt(relief, x, y);
    setUnder(relief && at !== null ? { x, y, z: relief.heights[at] ?? 0, off: relief.off[at] ?? 0 } : null);
  };
  const pick = ({ point: { x, y }, delta }: ThreeEvent<MouseEvent>) => {
    if (!line || delta > 4) return;
    const at: [number, number] = [Math.round(x * 100) / 100, Math.round(y * 100) / 100];
    if (begun) setLine({ start: begun, end: at });
    setBegun(begun ? null : at);
  };
  const cut = () => {
    setBegun(null);
    if (line || !box) return setLine(null);
    const middle = (box[1] + box[3]) / 2;
    setLine({ start: [box[0], middle], end: [box[2], middle] });
  };
  return (
    <div className="absolute inset-0" data-relief={relief ? which : ""}>
      <TurnedFrame
        turned={turned}
        label="The carved board in the round."
        testId="relief"
        slow={slow}
        box={box}
        height={thickness}
        seen={seen}
      >
        {relief && box && (
          <>
            <ReliefMesh
              relief={relief}
              thickness={thickness}
              colour={board ? looksLike(materials, board).colour : "#c99f63"}
              surface={material?.surface ?? "wood"}
              coarse={slow ? COARSE : FINE}
              difference={paint === "apart"}
              onPoint={point}
              onPick={pick}
              onLeave={() => setUnder(null)}
            />
            {line && <Cut line={line} height={thickness} size={box[2] - box[0]} />}
            <group name="findings">
              {[relief.gouged, relief.left].map(
                (fault, k) =>
                  fault.at && (
                    <mesh key={k === 0 ? "gouged" : "left"} position={[...fault.at, thickness]}>
                      <sphereGeometry args={[(box[2] - box[0]) / 140, 20, 14]} />
                      <meshBasicMaterial color={k === 0 ? "#b3261e" : "#0b7793"} />
                    </mesh>
                  ),
              )}
            </group>
          </>
        )}
      </TurnedFrame>
      <div className="pointer-events-none absolute top-9 left-3 max-w-sm rounded-xl border border-line bg-sheet px-3 py-1 text-xs leading-5 empty:hidden">
        {relief && <Facts gouged={relief.gouged} left={relief.left} legend={paint === "apart"} />}
        <Waiting what="Carving it" name={name} busy={busy} cancel={cancel} />
        {stopped && (
          <Button look="quiet" className="pointer-events-auto h-7 px-2" onClick={again}>
            Not carved as it is now: carve it
          </Button>
        )}
      </div>
      {under && (
        <p
          className="pointer-events-none absolute top-9 right-3 mt-10 rounded-lg border border-line bg-sheet px-2 py-0.5 tabular-nums"
          data-testid="depth"
        >
          {under.z < 0 ? `${length(-under.z, unit)} deep` : "on top"}
          <span className="ml-2 text-soft text-xs">
            {length(under.x, unit)}, {length(under.y, unit)}
            {Math.abs(under.off) > 0.005 &&
              `; ${length(Math.abs(under.off), unit)} too ${under.off < 0 ? "deep" : "high"}`}
          </span>
        </p>
      )}
      <TurnedProblem problem={problem} />
      {line && (
        <SectionPanel design={design} levels={wanted} line={line} thickness={thickness} onLine={setLine} />
      )}
      <TurnedBar turned={turned}>
        <Choice
          inline
          label="Which levels are shown"
          value={which}
          groups={[
            {
              options: [
                { value: "all", text: "the finished board" },
                ...Array.from({ length: passes }, (_, k) => ({
                  value: String(k),
                  text: `only pass ${k + 1}`,
                })),
              ],
            },
          ]}
          onChange={setWhich}
        />
        <Choice
          inline
          label="How it is painted"
          value={paint}
          groups={[{ options: PAINTS }]}
          onChange={setPaint}
        />
        <Button
          look="quiet"
          className={`px-2 ${line ? "bg-bench text-ink" : ""}`}
          aria-pressed={line !== null}
          title="Cut through the board along a line"
          onClick={cut}
        >
          <Scissors size={15} /> <span className="max-sm:sr-only">Cut through</span>
        </Button>
      </TurnedBar>
    </div>
  );
}

type FactsProps = { gouged: Fault; left: Fault; legend: boolean };

/** What came out of the paths, held against what is wanted. */
function Facts({ gouged, left, legend }: FactsProps) {
  const unit = useUnit();
  return (
    <>
      <p className={gouged.at ? "text-alarm" : "text-soft"} data-testid="gouged">
        {gouged.at
          ? `${gouged.area_mm2.toFixed(1)} mm² are up to ${length(gouged.most_mm, unit)} too deep.`
          : `Nowhere too deep by more than ${length(TOO_DEEP, unit)}.`}
      </p>
      <p className={left.at ? "text-alarm" : "text-soft"} data-testid="left">
        {left.at
          ? `Wood is left on ${left.area_mm2.toFixed(1)} mm², up to ${length(left.most_mm, unit)} high: the tools do not get in there.`
          : `No wood is left but ridges up to ${length(left.most_mm, unit)}.`}
      </p>
      {legend && (
        <p className="flex items-center gap-1.5 text-soft">
          <i className="size-3 rounded-sm bg-[#a31f1f]" /> {length(TOO_DEEP, unit)} too deep
          <i className="ml-2 size-3 rounded-sm bg-[#145aa0]" /> {length(LEFT, unit)} left
        </p>
      )}
    </>
  );
}

/** The line of the section, over the board. */
function Cut({ line, height, size }: { line: Line; height: number; size: number }) {
  const [[x0, y0], [x1, y1]] = [line.start, line.end];
  const long = Math.hypot(x1 - x0, y1 - y0);
  return (
    <mesh
      position={[(x0 + x1) / 2, (y0 + y1) / 2, height + size / 400]}
      rotation={[0, 0, Math.atan2(y1 - y0, x1 - x0)]}
    >
      <boxGeometry args={[long, size / 300, size / 300]} />
      <meshBasicMaterial color="#0b7793" />
    </mesh>
  );
}

function boxOf({ x, y, cell, columns, rows }: Relief): Box {
  return [x - cell / 2, y - cell / 2, x + (columns - 0.5) * cell, y + (rows - 0.5) * cell];
}
