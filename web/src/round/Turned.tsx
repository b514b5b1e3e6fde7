// What is looked at in the round: the frame that it is drawn in, turned by pointer and keys, and its buttons.

import { Canvas, type RootState } from "@react-three/fiber";
import { ArrowDownToLine, RotateCcw } from "lucide-react";
import {
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import type { Box } from "../stage/view";
import { selectLayer } from "../state/selection";
import { Button } from "../ui/Button";
import { isKey } from "../ui/keys";
import { ProofForm } from "./ProofForm";
import { Scene, type Turning } from "./Scene";
import { forgetGrain } from "./surfaces";

type Turned = {
  control: RefObject<Turning | null>;
  drawn: RefObject<RootState | null>;
  above: boolean;
  setAbove: (above: boolean) => void;
};

export function useTurned(): Turned {
  const control = useRef<Turning>(null);
  const drawn = useRef<RootState | null>(null);
  const [above, setAbove] = useState(false);
  useEffect(() => forgetGrain, []);
  return useMemo(() => ({ control, drawn, above, setAbove }), [above]);
}

type FrameProps = {
  turned: Turned;
  /** What is seen, for those who do not see it. */
  label: string;
  testId: string;
  slow: boolean;
  box: Box;
  height: number;
  /** How much higher it stands where it is pulled apart, and how far something lies beside it, in mm. */
  higher?: number;
  beside?: number;
  /** Something else each time that what is seen has changed. */
  seen: unknown;
  onMissed?: () => void;
  children: ReactNode;
};

/** What stands a mm high throws a shadow so far, and its edge is so soft, as a share of the piece. */
const [SLANT, BLURRED] = [0.6, 0.05];

let versions = 0;

/** Nothing is drawn before there is a box to show. The canvas says by `data-still` which version it has drawn well, at which size. */
export function TurnedFrame(props: Omit<FrameProps, "box"> & { box: Box | null }) {
  const { turned, label, testId, box, seen } = props;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another one whenever these are others
  const version = useMemo(() => ++versions, [seen, turned.above]);
  return (
    <div
      role="application"
      aria-label={`${label} Arrow keys turn and tilt, with Shift they move, plus and minus zoom, 0 resets.`}
      tabIndex={0}
      onKeyDown={(event) => steer(event, turned)}
      className="absolute inset-0 touch-none focus-visible:outline-offset-[-3px]"
      data-testid={testId}
      data-seen={version}
    >
      {box && <Drawn {...props} box={box} version={version} />}
    </div>
  );
}

function Drawn(props: FrameProps & { version: number }) {
  const { turned, slow, box, height, higher = 0, beside = 0, version, onMissed, children } = props;
  const [x0, y0, x1, y1] = box;
  return (
    <Canvas
      frameloop="demand"
      shadows="percentage"
      flat
      // None leaves it to useQuality: a number would be set again each time that this is drawn anew.
      dpr={slow ? 0 : [1, 2]}
      gl={{ antialias: !slow, preserveDrawingBuffer: true, alpha: true }}
      {...(onMissed && { onPointerMissed: onMissed })}
      onCreated={(state) => {
        turned.drawn.current = state;
      }}
    >
      <Scene
        box={box}
        height={height}
        shade={beside + SLANT * (height + higher) + BLURRED * Math.max(x1 - x0, y1 - y0, 10)}
        above={turned.above}
        slow={slow}
        seen={version}
        control={turned.control}
      />
      {children}
    </Canvas>
  );
}

const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

function steer(event: KeyboardEvent, { control, above }: Turned) {
  if (event.target !== event.currentTarget) return;
  const way = WAYS[event.key];
  const hand = control.current;
  if (way && event.shiftKey) hand?.pan(...way);
  else if (way && above) hand?.pan(...way);
  else if (way) hand?.turn(way[0] * 0.12, way[1] * 0.1);
  else if (isKey(event, "zoomIn")) hand?.zoom(1.25);
  else if (isKey(event, "zoomOut")) hand?.zoom(0.8);
  else if (isKey(event, "all")) hand?.reset();
  else if (event.key === "Escape") selectLayer(null);
  else return;
  event.preventDefault();
}

/** What is seen, as base64 PNG, without the marks of findings: those are nothing for customers. */
function pictureOf({ drawn }: Turned): string {
  if (!drawn.current) return "";
  const { gl, scene, camera } = drawn.current.get();
  const marks = scene.getObjectByName("findings");
  if (marks) marks.visible = false;
  gl.render(scene, camera);
  const made = gl.domElement.toDataURL("image/png");
  if (marks) marks.visible = true;
  return made.slice(made.indexOf(",") + 1);
}

/** The buttons under it; what is before them is the view's own. */
export function TurnedBar({ turned, children }: { turned: Turned; children: ReactNode }) {
  const { control, above, setAbove } = turned;
  return (
    <div className="absolute right-3 bottom-3 flex flex-wrap items-center justify-end gap-2 rounded-xl border border-line bg-sheet px-2 py-0.5 shadow-black/10 shadow-md">
      {children}
      <Button
        look="quiet"
        className={`px-2 ${above ? "bg-bench text-ink" : ""}`}
        aria-pressed={above}
        title="Straight from above, without perspective"
        onClick={() => setAbove(!above)}
      >
        <ArrowDownToLine size={15} /> <span className="max-sm:sr-only">From above</span>
      </Button>
      <ProofForm picture={() => pictureOf(turned)} />
      <Button look="quiet" className="px-2" title="As at first (0)" onClick={() => control.current?.reset()}>
        <RotateCcw size={15} /> <span className="max-sm:sr-only">Reset</span>
      </Button>
    </div>
  );
}

/** What went wrong, over it. */
export function TurnedProblem({ problem }: { problem: string }) {
  if (!problem) return null;
  return (
    <p
      role="alert"
      className="absolute top-9 left-9 max-w-lg rounded-xl border border-alarm bg-sheet px-4 py-2 text-alarm"
    >
      {problem}
    </p>
  );
}
