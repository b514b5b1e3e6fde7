// Fonts and materials for whoever needs them below the bench.

import { createContext, useContext } from "react";
import type { Font, Material } from "../api/client";

const Context = createContext<{ fonts: Font[]; materials: Material[] }>({ fonts: [], materials: [] });

export const Catalogue = Context.Provider;
export const useFonts = () => useContext(Context).fonts;
export const useMaterials = () => useContext(Context).materials;

const PLAIN: Material = { id: "", name: "Unknown", thickness: 1, colour: "#999999" };

export function useMaterial(id: string): Material {
  return useMaterials().find((material) => material.id === id) ?? PLAIN;
}
