// Pure edits of colour ways: materials and colours of all layers, kept under a name.

import type { Design } from "./types";

type Way = Design["colour_ways"][number];
type Dress = Way["layers"][number];

const dressOf = ({ id, material, colour, fill }: Design["layers"][number]): Dress => ({
  layer: id,
  material,
  colour,
  fill,
});

/** The materials and colours as they are, under a name; one of that name is changed to them. */
export function keepWay(design: Design, name: string): Design {
  const way: Way = { name, layers: design.layers.map(dressOf) };
  const at = design.colour_ways.findIndex((one) => one.name === name);
  const colour_ways = at < 0 ? [...design.colour_ways, way] : design.colour_ways.with(at, way);
  return { ...design, colour_ways };
}

/** All layers in the materials and colours of a way. */
export function wear(design: Design, way: Way): Design {
  const worn = new Map(way.layers.map(({ layer, ...dress }) => [layer, dress]));
  return { ...design, layers: design.layers.map((layer) => ({ ...layer, ...worn.get(layer.id) })) };
}

export function dropWay(design: Design, name: string): Design {
  return { ...design, colour_ways: design.colour_ways.filter((one) => one.name !== name) };
}

/** Whether the layers are as a way has them. */
export function isWorn(design: Design, way: Way): boolean {
  return JSON.stringify(wear(design, way).layers) === JSON.stringify(design.layers);
}
