// The look in the round: the finished piece on a table, to be turned, tilted, and pulled apart along its height.

import { memo, useMemo, useState } from "react";
import { keyOf } from "../findings/findings";
import type { Paint } from "../stage/StagePaint";
import type { Box } from "../stage/view";
import type { Building } from "../state/building";
import { select, selectLayer, useSelection } from "../state/selection";
import { Choice } from "../ui/Choice";
import { type Hanging, Hung } from "./Hung";
import { Layers } from "./Layers";
import { heightsOf, type Shown } from "./meshes";
import { TurnedBar, TurnedFrame, TurnedProblem, useTurned } from "./Turned";
import { useShown } from "./useShown";

const HANGING = [
  { value: "nothing" as const, text: "nothing" },
  { value: "ring" as const, text: "a ring" },
  { value: "cord" as const, text: "a cord" },
  { value: "stick" as const, text: "a stick" },
];

/** How far what it hangs on lies beside the piece, in mm. */
const LIES_BESIDE = 150;

export default function RoundView({ building, slow }: { building: Building; slow: boolean }) {
  const { shown, problem } = useShown();
  const [spread, setSpread] = useState(0);
  const [hanging, setHanging] = useState<Hanging>("nothing");
  const turned = useTurned();
  const built = useHeld(building.built, shown);
  const reply = built?.reply;
  const box = (reply?.bounds_mm ?? null) as Box | null;
  const paints = useMemo(() => new Map(reply?.layers.map((one) => [one.id, one.paint])), [reply]);
  const hole = useMemo((): [number, number] => {
    const notes = reply?.layers.flatMap((one) => one.notes) ?? [];
    const found = notes.map((one) => one.tab?.at_mm ?? one.holes?.at_mm[0]).find(Boolean);
    const [x0, , x1, y1] = box ?? [0, 0, 0, 0];
    return found ?? [(x0 + x1) / 2, y1];
  }, [reply, box]);

  return (
    <div
      className="absolute inset-0"
      data-shown={shown && box ? shown.layers.map((one) => one.key).join(" ") : ""}
      data-exact={shown?.exact ?? false}
    >
      <Piece {...{ turned, slow, box, shown, spread, hanging, hole, paints, built }} />
      <TurnedProblem problem={problem} />
      <TurnedBar turned={turned}>
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
      </TurnedBar>
    </div>
  );
}

type PieceProps = {
  turned: ReturnType<typeof useTurned>;
  slow: boolean;
  box: Box | null;
  shown: Shown | null;
  spread: number;
  hanging: Hanging;
  hole: [number, number];
  paints: Map<string, Paint | null>;
  built: Building["built"];
};

const missed = () => selectLayer(null);

/** What is drawn: each time that this is made anew, a frame is drawn as well as at rest. */
const Piece = memo(function Piece(props: PieceProps) {
  const { turned, slow, box, shown, spread, hanging, hole, paints, built } = props;
  const seen = useMemo(() => ({ shown, spread, hanging }), [shown, spread, hanging]);
  return (
    <TurnedFrame
      turned={turned}
      label="The piece in the round."
      testId="round"
      slow={slow}
      box={shown && box}
      height={shown?.height ?? 0}
      higher={spread * (shown?.layers.length ?? 0)}
      beside={hanging === "nothing" ? 0 : LIES_BESIDE}
      seen={seen}
      onMissed={missed}
    >
      {shown && box && (
        <>
          <Layers shown={shown} spread={spread} slow={slow} paints={paints} />
          {!turned.above && <Hung hanging={hanging} at={hole} box={box} height={shown.height} />}
          {!turned.above && (
            <group name="findings">
              <Marks built={built} shown={shown} spread={spread} size={sizeOf(box)} />
            </group>
          )}
        </>
      )}
    </TurnedFrame>
  );
});

/** What was built, as it stood when the meshes came or all of it was checked: whatever changes in between is a frame
 * more before the one that is waited for. */
function useHeld(built: Building["built"], shown: Shown | null): Building["built"] {
  const [held, setHeld] = useState({ built, shown });
  if (held.built === built || (held.shown === shown && !built?.checked && held.built)) return held.built;
  setHeld({ built, shown });
  return built;
}

const sizeOf = ([x0, y0, x1, y1]: Box) => Math.max(x1 - x0, y1 - y0);

type MarksProps = { built: Building["built"]; shown: Shown; spread: number; size: number };

/** Findings, at their places on the layers they are of. */
const Marks = memo(function Marks({ built, shown, spread, size }: MarksProps) {
  const looked = useSelection((state) => state.finding);
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
});
