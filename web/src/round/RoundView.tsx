// The look in the round: the finished piece on a table, to be turned, tilted, and pulled apart along its height.

import { Canvas, type RootState } from "@react-three/fiber";
import { ArrowDownToLine, RotateCcw } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { keyOf } from "../findings/findings";
import type { Box } from "../stage/view";
import type { Building } from "../state/building";
import { select, selectLayer, useSelection } from "../state/selection";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { type Hanging, Hung } from "./Hung";
import { Layers } from "./Layers";
import { heightsOf, type Shown } from "./meshes";
import { ProofForm } from "./ProofForm";
import { Scene, type Turning } from "./Scene";
import { forgetGrain } from "./surfaces";
import { useTurningKeys } from "./turningKeys";
import { useShown } from "./useShown";

const HANGING = [
  { value: "nothing" as const, text: "nothing" },
  { value: "ring" as const, text: "a ring" },
  { value: "cord" as const, text: "a cord" },
  { value: "stick" as const, text: "a stick" },
];

export default function RoundView({ building, slow }: { building: Building; slow: boolean }) {
  const { shown, problem } = useShown();
  const [spread, setSpread] = useState(0);
  const [above, setAbove] = useState(false);
  const [hanging, setHanging] = useState<Hanging>("nothing");
  const control = useRef<Turning>(null);
  useEffect(() => forgetGrain, []);
  const reply = building.built?.reply;
  const box = (reply?.bounds_mm ?? null) as Box | null;
  const paints = useMemo(() => new Map(reply?.layers.map((one) => [one.id, one.paint])), [reply]);
  const hole = useMemo((): [number, number] => {
    const notes = reply?.layers.flatMap((one) => one.notes) ?? [];
    const found = notes.map((one) => one.tab?.at_mm ?? one.holes?.at_mm[0]).find(Boolean);
    const [x0, , x1, y1] = box ?? [0, 0, 0, 0];
    return found ?? [(x0 + x1) / 2, y1];
  }, [reply, box]);

  const keys = useTurningKeys(control, above);

  const drawn = useRef<RootState | null>(null);
  /** What is seen, as base64 PNG, without the marks of findings: those are nothing for customers. */
  const picture = () => {
    if (!drawn.current) return "";
    const { gl, scene, camera } = drawn.current.get();
    const marks = scene.getObjectByName("findings");
    if (marks) marks.visible = false;
    gl.render(scene, camera);
    const made = gl.domElement.toDataURL("image/png");
    if (marks) marks.visible = true;
    return made.slice(made.indexOf(",") + 1);
  };
  const ready = shown && box;
  const seen = useMemo(() => ({ shown, spread, hanging }), [shown, spread, hanging]);
  return (
    <div className="absolute inset-0" data-shown={ready ? shown.layers.map((one) => one.key).join(" ") : ""}>
      <div
        role="application"
        aria-label="The piece in the round. Arrow keys turn and tilt, with Shift they move, plus and minus zoom, 0 resets."
        tabIndex={0}
        onKeyDown={keys}
        className="absolute inset-0 touch-none focus-visible:outline-offset-[-3px]"
        data-testid="round"
      >
        {ready && (
          <Canvas
            frameloop="demand"
            shadows="percentage"
            flat
            dpr={slow ? 1 : [1, 2]}
            gl={{ antialias: !slow, preserveDrawingBuffer: true, alpha: true }}
            onPointerMissed={() => selectLayer(null)}
            onCreated={(state) => {
              drawn.current = state;
            }}
          >
            <Scene box={box} height={shown.height} above={above} slow={slow} seen={seen} control={control} />
            <Layers shown={shown} spread={spread} slow={slow} paints={paints} />
            {!above && <Hung hanging={hanging} at={hole} box={box} height={shown.height} />}
            {!above && (
              <group name="findings">
                <Marks building={building} shown={shown} spread={spread} size={sizeOf(box)} />
              </group>
            )}
          </Canvas>
        )}
      </div>
      {problem && (
        <p
          role="alert"
          className="absolute top-9 left-9 max-w-lg rounded-xl border border-alarm bg-sheet px-4 py-2 text-alarm"
        >
          {problem}
        </p>
      )}
      <div className="absolute right-3 bottom-3 flex flex-wrap items-center justify-end gap-2 rounded-xl border border-line bg-sheet px-2 py-0.5 shadow-black/10 shadow-md">
        <label className="flex items-center gap-2">
          Pull apart
          <input
            type="range"
            min={0}
            max={Math.max(20, box ? (box[3] - box[1]) / 3 : 0)}
            step={0.5}
            value={spread}
            aria-label="Pull the layers apart, in mm"
            className="w-28 accent-halo max-sm:w-16"
            onChange={(event) => setSpread(Number(event.target.value))}
          />
        </label>
        <span className="max-sm:hidden">
          Hung in:{" "}
          <Choice
            inline
            label="What it hangs on"
            value={hanging}
            groups={[{ options: HANGING }]}
            onChange={setHanging}
          />
        </span>
        <Button
          look="quiet"
          className={`px-2 ${above ? "bg-bench text-ink" : ""}`}
          aria-pressed={above}
          title="Straight from above, without perspective"
          onClick={() => setAbove(!above)}
        >
          <ArrowDownToLine size={15} /> <span className="max-sm:sr-only">From above</span>
        </Button>
        <ProofForm picture={picture} />
        <Button
          look="quiet"
          className="px-2"
          title="As at first (0)"
          onClick={() => control.current?.reset()}
        >
          <RotateCcw size={15} /> <span className="max-sm:sr-only">Reset</span>
        </Button>
      </div>
    </div>
  );
}

const sizeOf = ([x0, y0, x1, y1]: Box) => Math.max(x1 - x0, y1 - y0);

type MarksProps = { building: Building; shown: Shown; spread: number; size: number };

/** Findings, at their places on the layers they are of. */
function Marks({ building, shown, spread, size }: MarksProps) {
  const looked = useSelection((state) => state.finding);
  const built = building.built;
  if (!built?.checked) return null;
  const heights = heightsOf(shown, spread);
  const top = (layer: string | null) => {
    const one = shown.layers.find(({ id }) => id === layer);
    return one ? (heights.get(one.id) ?? 0) + one.thickness : 0;
  };
  return built.findings
    .filter((one) => one.at !== null && one.accepted === null)
    .map((one) => {
      const key = keyOf(one);
      const [x, y] = one.at as [number, number];
      const radius = (size / 110) * (key === looked ? 1.5 : 1);
      return (
        // biome-ignore lint/a11y/noStaticElementInteractions: a mesh of the scene; findings are walked by keys in the strip
        <mesh
          key={key}
          position={[x, y, top(one.layer) + radius]}
          onClick={(event) => {
            event.stopPropagation();
            if (one.layer) selectLayer(one.layer);
            select({ finding: key });
          }}
        >
          <sphereGeometry args={[radius, 20, 14]} />
          <meshBasicMaterial color={one.severity === "note" ? "#0b7793" : "#b3261e"} />
        </mesh>
      );
    });
}
