// A machine's path played: what is done so far, where the tool is, and the way between lines.

import { Pause, Play } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import type { MachinePath } from "../api/answers";
import { length } from "../document/units";
import { useUnit } from "../state/timeline";
import { IconButton } from "../ui/Button";

/** As in the core: between lines, in mm a second. */
const TRAVEL = 200;
const PLAYED_S = 12;

/** What the machine is busy with, from when to when. */
type Leg = { from: number; to: number; line: number; going: boolean };

export function PathPlayer({ path }: { path: MachinePath }) {
  const unit = useUnit();
  const legs = useMemo(() => legsOf(path), [path]);
  const whole = legs.at(-1)?.to ?? 0;
  const [at, setAt] = useState(0);
  const [playing, setPlaying] = useState(true);
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function tick(now) {
      // However long the job, it is seen in a few seconds.
      const passed = ((now - last) / 1000) * Math.max(1, whole / PLAYED_S);
      last = now;
      setAt((before) => Math.min(whole, before + passed));
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, whole]);
  useEffect(() => {
    if (at >= whole) setPlaying(false);
  }, [at, whole]);

  const current = useRef<SVGPathElement>(null);
  const [x0, y0, x1, y1] = path.page_mm ?? [0, 0, 1, 1];
  const room = Math.max(x1 - x0, y1 - y0) * 0.03 + 1;
  const leg = legs.find((one) => at < one.to) ?? legs.at(-1);
  const share = leg ? Math.min(1, (at - leg.from) / Math.max(leg.to - leg.from, 1e-9)) : 1;
  const line = leg && path.lines[leg.line];
  const tool = toolAt(path, leg, share, current.current);
  const play = () => {
    if (at >= whole) setAt(0);
    setPlaying(!playing);
  };
  return (
    <>
      <svg
        role="img"
        aria-label="The path of the machine"
        viewBox={`${x0 - room} ${-y1 - room} ${x1 - x0 + 2 * room} ${y1 - y0 + 2 * room}`}
        className="mt-3 max-h-[60vh] w-full rounded-xl border border-line bg-bench"
      >
        {path.lines.map((one, number) => {
          const busy = number === leg?.line && at < whole;
          const started = leg !== undefined && (number < leg.line || (number === leg.line && !leg.going));
          const done = number < (leg?.line ?? 0) || at >= whole ? 1 : started ? share : 0;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines have no identity but their place
            <g key={number} className="fill-none" data-done={done >= 1}>
              <path d={one.path} className="stroke-line" vectorEffect="non-scaling-stroke" />
              {done > 0 && (
                <path
                  ref={busy ? current : undefined}
                  d={one.path}
                  {...(done < 1 ? { pathLength: 1, strokeDasharray: `${done} 2` } : {})}
                  className={
                    one.process === "cut" || one.process === "through" ? "stroke-halo" : "stroke-alarm"
                  }
                  strokeWidth={1.6}
                  vectorEffect={done >= 1 ? "non-scaling-stroke" : undefined}
                  style={done < 1 ? { strokeWidth: (x1 - x0) / 500 } : undefined}
                />
              )}
            </g>
          );
        })}
        {waysOf(path).map(([from, to], number) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: as above
            key={number}
            d={`M${from[0]},${-from[1]}L${to[0]},${-to[1]}`}
            className={`fill-none stroke-soft ${number <= (leg?.line ?? 0) ? "" : "opacity-25"}`}
            strokeDasharray="3 3"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        <circle cx={tool.x} cy={-tool.y} r={(x1 - x0) / 130} className="fill-glow stroke-halo" />
      </svg>
      <div className="mt-2 flex items-center gap-3">
        <IconButton label={playing ? "Pause" : "Play"} onClick={play}>
          {playing ? <Pause size={17} /> : <Play size={17} />}
        </IconButton>
        <input
          type="range"
          aria-label="Where the machine is"
          min={0}
          max={1000}
          step={1}
          value={whole > 0 ? (at / whole) * 1000 : 0}
          className="flex-1 accent-halo"
          onChange={(event) => {
            setPlaying(false);
            setAt((Number(event.target.value) / 1000) * whole);
          }}
        />
        <span className="w-40 text-right text-soft text-xs">
          {leg ? leg.line + 1 : 0} of {path.lines.length}
          {line && `, ${length(line.length_mm, unit, 0)}`}
        </span>
      </div>
    </>
  );
}

/** From the end of each line to the beginning of the next; the first from the upper left corner of the page. */
function waysOf(path: MachinePath): (readonly [readonly [number, number], readonly [number, number]])[] {
  const corner = path.page_mm ? ([path.page_mm[0], path.page_mm[3]] as const) : ([0, 0] as const);
  return path.lines.map((line, k) => [path.lines[k - 1]?.end_mm ?? corner, line.start_mm] as const);
}

function legsOf(path: MachinePath): Leg[] {
  let now = 0;
  const ways = waysOf(path);
  return path.lines.flatMap((line, k) => {
    const [[ax, ay], [bx, by]] = ways[k] ?? [
      [0, 0],
      [0, 0],
    ];
    const there = now + Math.hypot(bx - ax, by - ay) / TRAVEL;
    const done = there + line.seconds;
    const legs = [
      { from: now, to: there, line: k, going: true },
      { from: there, to: done, line: k, going: false },
    ];
    now = done;
    return legs;
  });
}

/** Where the tool is: on its way between lines, or along the one that it follows. */
function toolAt(path: MachinePath, leg: Leg | undefined, share: number, line: SVGPathElement | null) {
  const ways = waysOf(path);
  const [from, to] = ways[leg?.line ?? 0] ?? [[0, 0] as const, [0, 0] as const];
  if (leg?.going !== false)
    return { x: from[0] + (to[0] - from[0]) * share, y: from[1] + (to[1] - from[1]) * share };
  const at = line?.getPointAtLength(line.getTotalLength() * share);
  return at ? { x: at.x, y: -at.y } : { x: to[0], y: to[1] };
}
