// Where no graphics card helps, the piece is drawn coarsely and without shadows while it moves, and well once it rests.

import { useThree } from "@react-three/fiber";
import { type RefObject, useCallback, useEffect, useRef } from "react";
import type { DirectionalLight } from "three";

const REST = 350;
/** Dots drawn for each of the screen's, along either side. */
const [MOVING, RESTING] = [0.6, 1.5];

/** What to call whenever something moves. */
export function useQuality(
  light: RefObject<DirectionalLight | null>,
  slow: boolean,
  shadows: boolean,
): () => void {
  const { setDpr, invalidate } = useThree();
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  return useCallback(() => {
    if (slow) {
      clearTimeout(timer.current);
      if (light.current) light.current.castShadow = false;
      setDpr(MOVING);
      timer.current = setTimeout(() => {
        if (light.current) light.current.castShadow = shadows;
        setDpr(RESTING);
        invalidate();
      }, REST);
    }
    invalidate();
  }, [slow, light, shadows, setDpr, invalidate]);
}
