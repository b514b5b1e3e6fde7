// Fonts and materials for whoever needs them below the bench.

import { createContext, useContext } from "react";
import type { Font, Material } from "../api/client";

const Context = createContext<{ fonts: Font[]; materials: Material[] }>({ fonts: [], materials: [] });

export const Catalogue = Context.Provider;
export const useFonts = () => useContext(Context).fonts;
export const useMaterials = () => useContext(Context).materials;
