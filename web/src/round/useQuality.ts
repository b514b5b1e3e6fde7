// Where no graphics card helps, the piece is drawn coarsely and with the shadows that it had while it moves, and well once it rests.

import { useThree } from "@react-three/fiber";
import { useCallback, useEffect, useRef } from "react";

const REST = 350;
/** Dots drawn for each of the screen's, along either side. */
const [MOVING, RESTING] = [0.4, 1.5];

/** What to call whenever something moves. */
export function useQuality(slow: boolean): () => void {
  const { gl, setDpr, invalidate } = useThree();
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  return useCallback(() => {
    if (slow) {
      clearTimeout(timer.current);
      // Those of the last rest stay meanwhile: without any, all programs would be compiled anew.
      gl.shadowMap.autoUpdate = false;
      setDpr(MOVING);
      timer.current = setTimeout(() => {
        gl.shadowMap.needsUpdate = true;
        setDpr(RESTING);
        invalidate();
      }, REST);
    }
    invalidate();
  }, [slow, gl, setDpr, invalidate]);
}
