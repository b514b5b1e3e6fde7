// The stage: the layers at true proportions, to look at, zoom, pan and pick.

import { FlipHorizontal2, History, Maximize, Minus, Plus } from "lucide-react";
import { ToggleGroup } from "radix-ui";
import {
  type KeyboardEvent,
  lazy,
  memo,
  type PointerEvent,
  Suspense,
  useCallback,
  useMemo,
  useRef,
  useState,
} from "react";
import { isLettering, isOutline } from "../document/art";
import { boardsOf, leavesMirrored } from "../document/handOver";
import type { Sheet } from "../document/types";
import { useMaterials } from "../layers/catalogue";
import { StageNodes } from "../outlines/StageNodes";
import { ability } from "../round/ability";
import type { Building } from "../state/building";
import { pickAlso, select, selectLayer, useSelection } from "../state/selection";
import { now, useDesign, usePart, useUnit } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import type { Pointing } from "../ui/drag";
import { isKey } from "../ui/keys";
import { enterRow } from "../ui/rows";
import { LetterStrip } from "../words/LetterStrip";
import { TypeHere } from "../words/TypeHere";
import { Before, useBefore } from "./Before";
import { ComparedValues } from "./ComparedValues";
import { EdgePull } from "./EdgePull";
import { Joints } from "./Joints";
import { LinesLegend } from "./LeavingLines";
import { Meetings } from "./Meetings";
import { PickBar, StagePieces } from "./Picking";
import { Rulers } from "./Rulers";
import { SoughtPlace } from "./SoughtPlace";
import { StageArt } from "./StageArt";
import { StageFindings } from "./StageFindings";
import { HeatLegend } from "./StageHeat";
import { apartBounds, type Look, StageLayers } from "./StageLayers";
import { StepHandles } from "./StepHandles";
import { useLongPress } from "./useLongPress";
import { useView } from "./useView";
import { around, type Box, sheetBox } from "./view";

const LOOKS: [Look, string, string][] = [
  ["solid", "Solid", "In the colours of the materials"],
  ["lines", "Cut lines", "Exactly the paths that leave, nothing else"],
  ["apart", "Apart", "The layers pulled apart, in the order of the stack"],
  ["widths", "Widths", "How wide the strokes of a layer are, all along them"],
  ["round", "3D", "The finished piece in the round: turn it, tilt it, pull its layers apart"],
];

/** Loaded once somebody looks: it is larger than all the rest. */
const RoundView = lazy(() => import("../round/RoundView"));
const ReliefView = lazy(() => import("../carving/ReliefView"));

export function Stage({ building }: { building: Building }) {
  const unit = useUnit();
  const surface = useRef<HTMLDivElement>(null);
  const carved = usePart((design) => design.carving !== null);
  const [look, setLook] = useState<Look>("solid");
  const drawing = useMemo(() => (look === "round" ? ability() : "none"), [look]);
  const sheet = usePart((design) => design.sheet);
  const count = usePart((design) => design.layers.filter((layer) => !layer.hidden).length);
  const made = (building.built?.reply.bounds_mm ?? null) as Box | null;
  const bounds = look === "apart" ? apartBounds(made, count) : made;
  const shown = sheet && look !== "apart" ? around(bounds, sheetBox(sheet)) : bounds;
  const stage = useView(surface, shown);
  const { view, inner, spot, zoomBy, panBy, press, move } = stage;
  const refit = stage.fit;
  const fit = useCallback(() => {
    select({ spot: null });
    refit();
  }, [refit]);
  const choose = useCallback(
    (next: Look) => {
      setLook(next);
      fit();
    },
    [fit],
  );
  const boxes = useMemo(
    () =>
      new Map(building.built?.reply.art.flatMap((one) => (one.bounds_mm ? [[one.id, one.bounds_mm]] : []))),
    [building.built?.reply.art],
  );
  const current = usePart((design) => design === building.built?.document);
  const picking = useSelection((state) => state.picking);
  const before = useBefore();
  const nodal = useSelection((state) => state.nodal);
  const outlined = usePart((design) => design.art.find((one) => one.id === nodal && isOutline(one)));
  const pick = (event: Pointing) => {
    const under = document.elementsFromPoint(event.clientX, event.clientY);
    const named = (name: string) =>
      under.map((element) => element.closest(`[${name}]`)?.getAttribute(name)).find(Boolean) ?? null;
    const art = named("data-art");
    if (event.shiftKey && art) return pickAlso(art);
    selectLayer(named("data-layer"));
    select({ picked: art });
  };
  const release = (event: PointerEvent) => stage.release(event) && pick(event);

  /** Words are opened to type into; anywhere else all is shown. */
  const enter = (event: { clientX: number; clientY: number }) => {
    const id = document
      .elementsFromPoint(event.clientX, event.clientY)
      .map((element) => element.getAttribute("data-art"))
      .find(Boolean);
    if (!id) return fit();
    select({ picked: id });
    const art = now().art.find((one) => one.id === id);
    if (art && isLettering(art)) select({ typing: id });
    else if (art && isOutline(art)) select({ picked: null, art: id, nodal: id });
    else enterRow(id);
  };

  const hold = useLongPress(enter);

  const keys = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const pan = event.shiftKey ? 120 : 30;
    const by: Record<string, [number, number]> = {
      ArrowLeft: [pan, 0],
      ArrowRight: [-pan, 0],
      ArrowUp: [0, pan],
      ArrowDown: [0, -pan],
    };
    const way = by[event.key];
    if (way) panBy(...way);
    else if (isKey(event, "zoomIn")) zoomBy(1.25);
    else if (isKey(event, "zoomOut")) zoomBy(0.8);
    else if (isKey(event, "all")) fit();
    else if (event.key === "Escape") {
      selectLayer(null);
      select({ picked: null, picking: null });
    } else return;
    event.preventDefault();
  };

  return (
    <main className="relative col-start-2 row-start-3 min-w-0 max-sm:col-start-1 overflow-hidden bg-bench">
      <div
        ref={surface}
        role="application"
        aria-label="Stage. Arrow keys pan, plus and minus zoom, 0 shows everything."
        tabIndex={0}
        className={`absolute inset-0 cursor-grab touch-none overflow-hidden focus-visible:outline-offset-[-3px] active:cursor-grabbing ${look === "round" ? "invisible" : ""}`}
        {...hold}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={release}
        onPointerCancel={release}
        onDoubleClick={enter}
        onKeyDown={keys}
      >
        <svg
          role="img"
          aria-label="The layers"
          className="absolute top-6 left-6 will-change-transform"
          width={Math.max(0, inner.width)}
          height={Math.max(0, inner.height)}
        >
          <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
            {sheet && look !== "apart" && <StageSheet sheet={sheet} />}
            {before ? (
              <Before before={before} />
            ) : (
              <StageLayers building={building} look={look} scale={view.scale} pick={pick} />
            )}
            {look !== "apart" && <SoughtPlace building={building} scale={view.scale} />}
            {look !== "apart" && <Joints art={building.built?.reply.art ?? []} />}
          </g>
        </svg>
        <svg
          role="group"
          aria-label="On the stage"
          className="pointer-events-none absolute top-6 left-6"
          width={Math.max(0, inner.width)}
          height={Math.max(0, inner.height)}
        >
          {spot && look !== "apart" && (
            <circle
              cx={view.x + spot.x * view.scale}
              cy={view.y - spot.y * view.scale}
              r={Math.max(9, (spot.width * view.scale) / 2)}
              data-testid="spot"
              className="fill-none stroke-alarm"
              strokeWidth={2}
            />
          )}
          {outlined && isOutline(outlined) && look !== "apart" && !picking && !before && (
            <StageNodes key={outlined.id} art={outlined} view={view} size={inner} />
          )}
          {look !== "apart" && !picking && !before && !outlined && (
            <StageArt art={building.built?.reply.art ?? []} view={view} />
          )}
          {look === "solid" && !picking && !before && !outlined && (
            <EdgePull building={building} view={view} />
          )}
          {look !== "apart" && !picking && !before && !outlined && (
            <StepHandles building={building} view={view} />
          )}
          {look === "solid" && !picking && !before && !outlined && (
            <StageFindings building={building} view={view} />
          )}
          {look !== "apart" && picking && <StagePieces layer={picking} view={view} />}
        </svg>
        {look !== "apart" && !picking && !before && (
          <div className="pointer-events-none absolute top-6 left-6 *:pointer-events-auto">
            <TypeHere boxes={boxes} view={view} />
          </div>
        )}
        {look !== "apart" && inner.width > 0 && (
          <Rulers view={view} size={inner} unit={unit} bounds={bounds} />
        )}
      </div>
      {look === "round" && (
        <div className="absolute inset-0 bg-bench">
          {drawing !== "none" ? (
            <Suspense fallback={<p className="absolute top-9 left-9 text-soft">Setting it up…</p>}>
              {carved ? (
                <ReliefView slow={drawing === "slow"} />
              ) : (
                <RoundView building={building} slow={drawing === "slow"} />
              )}
            </Suspense>
          ) : (
            <p
              role="alert"
              className="absolute top-9 left-9 max-w-md rounded-xl border border-line bg-sheet p-3"
            >
              This browser does not draw in the round (it has no WebGL). The other looks show the same layers
              flat.
            </p>
          )}
        </div>
      )}
      {look !== "round" && <Zooming zoomBy={zoomBy} fit={fit} />}
      <Looks look={look} choose={choose} />
      {before && (
        <p
          role="status"
          className="absolute top-9 left-9 rounded-full border border-halo bg-sheet px-3 py-1 font-semibold text-halo"
        >
          {before.title}
        </p>
      )}
      {look === "widths" && <HeatLegend />}
      {look === "lines" && <LinesLegend />}
      <ComparedValues />
      <MirroredNote />
      <LetterStrip />
      <PickBar />
      {!current && !building.problem && (
        <p
          // With each of the outlines that follow a drag it begins to wait anew: these keep up.
          key={building.built?.count}
          role="status"
          className="shown-late absolute bottom-4 left-10 rounded-full border border-line bg-sheet px-3 py-1 text-soft"
        >
          Working out the outlines…
        </p>
      )}
      {building.problem && (
        <p
          role="alert"
          className="absolute top-9 left-9 max-w-lg rounded-xl border border-alarm bg-sheet px-4 py-2 text-alarm shadow-lg"
        >
          {building.problem.sentence}
        </p>
      )}
    </main>
  );
}

/** That files leave otherwise than what is seen. */
function MirroredNote() {
  const design = useDesign();
  const materials = useMaterials();
  const boards = boardsOf(design).filter((board) => leavesMirrored(design, board, materials));
  if (boards.length === 0) return null;
  const names = boards.map(
    (board) => materials.find((one) => one.id === board.material)?.name ?? board.material,
  );
  return (
    <p className="pointer-events-none absolute bottom-3 left-9 flex items-center gap-1.5 rounded-xl border border-line bg-sheet px-2.5 py-1 text-soft text-xs">
      <FlipHorizontal2 size={14} aria-hidden="true" /> Leaves mirrored: {[...new Set(names)].join(", ")}
    </p>
  );
}

type ZoomingProps = { zoomBy: (factor: number) => void; fit: () => void };

const Zooming = memo(function Zooming({ zoomBy, fit }: ZoomingProps) {
  const comparing = useSelection((state) => state.comparing);
  return (
    <div className="absolute right-3 bottom-3 flex items-center gap-0.5 rounded-xl border border-line bg-sheet p-0.5 shadow-md shadow-black/10">
      <IconButton label="Zoom out (−)" onClick={() => zoomBy(0.8)}>
        <Minus size={16} />
      </IconButton>
      <IconButton label="Zoom in (+)" onClick={() => zoomBy(1.25)}>
        <Plus size={16} />
      </IconButton>
      <Button look="quiet" className="px-2" title="Show everything (0)" onClick={fit}>
        <Maximize size={15} /> All
      </Button>
      <Button
        look="quiet"
        className={`px-2 ${comparing ? "bg-bench text-ink" : ""}`}
        aria-pressed={comparing}
        title="The design as it was opened; over a step in a sentence, without that step. Or hold B"
        onClick={() => select({ comparing: !comparing })}
      >
        <History size={15} /> <span className="max-sm:sr-only">Before</span>
      </Button>
      <Meetings />
    </div>
  );
});

const Looks = memo(function Looks({ look, choose }: { look: Look; choose: (look: Look) => void }) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label="Look"
      value={look}
      onValueChange={(next) => next && choose(next as Look)}
      className="absolute top-9 right-3 flex rounded-xl border border-line bg-sheet p-0.5 shadow-black/10 shadow-md"
    >
      {LOOKS.map(([value, text, title]) => (
        <ToggleGroup.Item
          key={value}
          value={value}
          title={title}
          className="h-8 rounded-lg px-3 text-soft hover:text-ink max-sm:h-7 max-sm:px-1.5 max-sm:text-xs data-[state=on]:bg-bench data-[state=on]:font-semibold data-[state=on]:text-ink"
        >
          {text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
});

function StageSheet({ sheet }: { sheet: Sheet }) {
  return (
    <rect
      x={sheet.x}
      y={-sheet.y - sheet.height}
      width={sheet.width}
      height={sheet.height}
      data-testid="sheet"
      className="fill-sheet/50 stroke-soft"
      strokeDasharray="6 4"
      vectorEffect="non-scaling-stroke"
    />
  );
}
