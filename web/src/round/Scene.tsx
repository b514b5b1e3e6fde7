// The table, the light, and the camera that is turned round the piece.

import { useThree } from "@react-three/fiber";
import { memo, useEffect, useImperativeHandle, useLayoutEffect, useMemo, useRef } from "react";
import {
  DataTexture,
  type DirectionalLight,
  EquirectangularReflectionMapping,
  FloatType,
  LinearFilter,
  OrthographicCamera,
  PerspectiveCamera,
  RGBAFormat,
  Vector3,
} from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { Box } from "../stage/view";
import { whenEscaped } from "../ui/drag";
import { useQuality } from "./useQuality";

export type Turning = {
  turn: (across: number, up: number) => void;
  zoom: (factor: number) => void;
  pan: (across: number, up: number) => void;
  reset: () => void;
};

type Props = {
  box: Box;
  height: number;
  /** How far shadows are thrown beyond the box, in mm. */
  shade: number;
  above: boolean;
  slow: boolean;
  /** Another number each time that what is seen has changed. */
  seen: number;
  control: React.Ref<Turning>;
};

/** From the front, half from above. */
const FROM = new Vector3(-0.25, -0.8, 0.75).normalize();
const ROOM = 1.25;

export const Scene = memo(function Scene(props: Props) {
  const { box, height, shade, above, slow, seen, control } = props;
  const { scene, camera, gl, size, set } = useThree();
  const controls = useRef<OrbitControls | null>(null);
  const light = useRef<DirectionalLight>(null);
  const stir = useQuality(slow, seen);
  const [x0, y0, x1, y1] = box;
  const wide = Math.max(x1 - x0, y1 - y0, 10);
  const middle = useMemo(
    () => new Vector3((x0 + x1) / 2, (y0 + y1) / 2, height / 2),
    [x0, y0, x1, y1, height],
  );

  // Whoever turned it keeps the view when the window is another size, and the lens follows by itself.
  const touched = useRef(false);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a lens for the size that there is to begin with
  useLayoutEffect(() => {
    const next = above ? new OrthographicCamera() : new PerspectiveCamera(30);
    if ("isPerspectiveCamera" in next) next.aspect = size.width / size.height;
    else {
      next.left = -size.width / 2;
      next.right = size.width / 2;
      next.top = size.height / 2;
      next.bottom = -size.height / 2;
    }
    // Whoever turns it takes what is up from it at once.
    next.up.set(0, above ? 1 : 0, above ? 0 : 1);
    set({ camera: next as PerspectiveCamera & { manual?: boolean } });
  }, [above, set]);

  useEffect(() => {
    // Working it out takes a program seconds.
    if (slow) return;
    const sky = skyTexture();
    scene.environment = sky;
    scene.environmentIntensity = 0.55;
    // Such pictures have y up; here it is z.
    scene.environmentRotation.set(Math.PI / 2, 0, 0);
    return () => {
      scene.environment = null;
      sky.dispose();
    };
  }, [scene, slow]);

  const fit = useMemo(
    () => () => {
      const lens = camera as PerspectiveCamera | OrthographicCamera;
      const across = (x1 - x0) * ROOM;
      const up = (y1 - y0) * ROOM;
      if ("isPerspectiveCamera" in lens) {
        const view = Math.tan(((lens.fov / 2) * Math.PI) / 180);
        const far = Math.max(up / 2 / view, across / 2 / view / (size.width / size.height)) + height;
        lens.position.copy(middle).addScaledVector(FROM, far);
        lens.near = far / 100;
        lens.far = far * 20;
      } else {
        // Straight from above nothing is nearer: sizes are true.
        lens.position.set(middle.x, middle.y, height + 1000);
        lens.near = 1;
        lens.far = 3000 + height;
        lens.zoom = Math.min(size.width / Math.max(across, 1), size.height / Math.max(up, 1));
      }
      lens.lookAt(middle);
      lens.updateProjectionMatrix();
      touched.current = false;
      controls.current?.target.copy(middle);
      controls.current?.update();
      stir();
    },
    [camera, middle, size.width, size.height, x0, x1, y0, y1, height, stir],
  );

  // Before the next frame, which would be drawn as well as at rest otherwise.
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is seen has changed
  useLayoutEffect(stir, [seen, size, stir]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: fitted when the camera is another one, not with every edit
  useEffect(() => {
    const made = new OrbitControls(camera, gl.domElement);
    made.enableDamping = false;
    made.enableRotate = !above;
    made.maxPolarAngle = Math.PI * 0.49;
    made.addEventListener("change", stir);
    let deaf = () => {};
    made.addEventListener("start", () => {
      const before = touched.current;
      touched.current = true;
      made.saveState();
      deaf();
      deaf = whenEscaped(() => {
        made.reset();
        touched.current = before;
        // It would go on with the same drag otherwise.
        made.disconnect();
        made.connect(gl.domElement);
      });
    });
    made.addEventListener("end", () => deaf());
    controls.current = made;
    fit();
    return () => {
      deaf();
      made.dispose();
    };
  }, [camera, gl, above]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: fitted to another size, not with every edit
  useEffect(() => {
    if (!touched.current) fit();
  }, [size.width, size.height]);

  useImperativeHandle(
    control,
    () => ({
      turn: (across, up) => {
        const made = controls.current;
        if (!made || above) return;
        touched.current = true;
        const from = camera.position.clone().sub(made.target);
        const far = from.length();
        const around = Math.atan2(from.y, from.x) + across;
        const tilt = Math.min(1.54, Math.max(0.05, Math.asin(from.z / far) + up));
        from.set(Math.cos(around) * Math.cos(tilt), Math.sin(around) * Math.cos(tilt), Math.sin(tilt));
        camera.position.copy(made.target).addScaledVector(from, far);
        made.update();
        stir();
      },
      zoom: (factor) => {
        const made = controls.current;
        if (!made) return;
        touched.current = true;
        if ("isOrthographicCamera" in camera) {
          camera.zoom *= factor;
          camera.updateProjectionMatrix();
        } else camera.position.sub(made.target).divideScalar(factor).add(made.target);
        made.update();
        stir();
      },
      pan: (across, up) => {
        const made = controls.current;
        if (!made) return;
        touched.current = true;
        const right = new Vector3().setFromMatrixColumn(camera.matrix, 0);
        const high = new Vector3().setFromMatrixColumn(camera.matrix, 1);
        const by = right.multiplyScalar((across * wide) / 20).addScaledVector(high, (up * wide) / 20);
        camera.position.add(by);
        made.target.add(by);
        made.update();
        stir();
      },
      reset: fit,
    }),
    [camera, fit, above, wide, stir],
  );

  useEffect(() => {
    const shining = light.current;
    if (!shining) return;
    const reach = wide * 1.2 + height;
    Object.assign(shining.shadow.camera, {
      left: -reach,
      right: reach,
      top: reach,
      bottom: -reach,
      near: 1,
      far: wide * 6 + height * 4,
    });
    shining.shadow.camera.updateProjectionMatrix();
    shining.target.position.copy(middle);
    shining.target.updateMatrixWorld();
    stir();
  }, [wide, height, middle, stir]);

  return (
    <>
      <ambientLight intensity={above ? 1.2 : slow ? 0.9 : 0.3} />
      <directionalLight
        ref={light}
        position={[middle.x - wide * 0.9, middle.y + wide * 0.7, middle.z + wide * 1.9]}
        intensity={above ? 1 : 1.7}
        castShadow={!above}
        shadow-mapSize={[1024, 1024]}
        shadow-radius={6}
        shadow-normalBias={0.25}
      />
      {!above && (
        // No larger than the shadows: every pixel of it asks for them.
        <mesh position={[middle.x, middle.y, -0.02]} receiveShadow>
          <planeGeometry args={[x1 - x0 + 2 * shade, y1 - y0 + 2 * shade]} />
          <shadowMaterial opacity={0.28} />
        </mesh>
      )}
    </>
  );
});

/** What shiny things show: a light room with a window, as a small picture all round. */
function skyTexture(): DataTexture {
  const [width, height] = [32, 16];
  const data = new Float32Array(width * height * 4);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const up = row / (height - 1);
      const window = up > 0.62 && up < 0.88 && column > 4 && column < 13 ? 4 : 0;
      const light = 0.15 + 0.6 * up + window;
      data.set([light, light * 0.985, light * 0.96, 1], 4 * (row * width + column));
    }
  const made = new DataTexture(data, width, height, RGBAFormat, FloatType);
  made.mapping = EquirectangularReflectionMapping;
  made.minFilter = made.magFilter = LinearFilter;
  made.needsUpdate = true;
  return made;
}
