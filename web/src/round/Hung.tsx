// What a piece hangs on or stands by, to be seen with it: a ring, a cord, a stick. It never leaves.

import { useMemo } from "react";
import { CatmullRomCurve3, Vector3 } from "three";
import type { Box } from "../stage/view";

export type Hanging = "nothing" | "ring" | "cord" | "stick";

/** Where it goes through, in mm, and how high the stack is there. */
type Props = { hanging: Hanging; at: [number, number]; box: Box; height: number };

export function Hung({ hanging, at, box, height }: Props) {
  const [x, y] = at;
  const cord = useMemo(() => {
    const points = [
      [0, 0, height / 2],
      [-6, 14, height + 3],
      [-16, 60, 1.2],
      [0, 92, 1.2],
      [16, 60, 1.2],
      [6, 14, height + 3],
    ].map(([across = 0, up = 0, high = 0]) => new Vector3(x + across, y + up, high));
    return new CatmullRomCurve3(points, true);
  }, [x, y, height]);
  if (hanging === "nothing") return null;
  if (hanging === "stick")
    return (
      <mesh position={[(box[0] + box[2]) / 2, box[1] - 55, 1.5]} castShadow>
        <cylinderGeometry args={[1.5, 1.5, 150, 24]} />
        <meshStandardMaterial color="#d9bd8c" roughness={0.8} />
      </mesh>
    );
  if (hanging === "cord")
    return (
      <mesh castShadow>
        <tubeGeometry args={[cord, 96, 0.9, 10, true]} />
        <meshStandardMaterial color="#7b4b2a" roughness={0.9} />
      </mesh>
    );
  // Through the hole and round the rim: half of it over the piece, lying back on the table.
  return (
    <mesh position={[x, y + 11, height / 2 + 1.2]} rotation={[0.12, 0, 0]} castShadow>
      <torusGeometry args={[12, 0.9, 16, 72]} />
      <meshStandardMaterial color="#b9bec6" roughness={0.25} metalness={0.35} />
    </mesh>
  );
}
