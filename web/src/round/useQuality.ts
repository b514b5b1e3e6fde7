// Where no graphics card helps, the piece is drawn coarsely and with the shadows that it had while it moves, and well once it rests.

import { useThree } from "@react-three/fiber";
import { useCallback, useEffect, useRef } from "react";

const REST = 350;
/** The frame that was asked for is drawn after this, in ms. */
const FRAME = 40;
/** Dots drawn for each of the screen's, along either side. */
const [MOVING, RESTING] = [0.4, 1.5];

/** What to call whenever something moves; `seen` is another number each time that what is seen has changed. */
export function useQuality(slow: boolean, seen: number): () => void {
  const { gl, setDpr, invalidate } = useThree();
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const newest = useRef(seen);
  newest.current = seen;
  useEffect(() => () => clearTimeout(timer.current), []);
  return useCallback(() => {
    clearTimeout(timer.current);
    const canvas = gl.domElement;
    delete canvas.dataset.still;
    // Another size empties the canvas: what was drawn well at one size is not at another.
    const tellStill = () => {
      canvas.dataset.still = `${newest.current} ${canvas.width}x${canvas.height}`;
    };
    if (slow) {
      // Those of the last rest stay meanwhile: without any, all programs would be compiled anew.
      gl.shadowMap.autoUpdate = false;
      setDpr(MOVING);
      timer.current = setTimeout(() => {
        gl.shadowMap.needsUpdate = true;
        setDpr(RESTING);
        invalidate();
        timer.current = setTimeout(() => requestAnimationFrame(tellStill), FRAME);
      }, REST);
    } else timer.current = setTimeout(() => requestAnimationFrame(tellStill), FRAME);
    invalidate();
  }, [slow, gl, setDpr, invalidate]);
}
