// Written by `make types` from the models in `src/tinhalo/core`; do not edit it by hand.
//
// Of every step and every kind of art: what a new one starts with, and the range of its numbers. Of steps also which
// fields hold recipes, and which hold picked places.

import type {
  Carving,
  Drawing,
  Fit,
  HandingOver,
  Into,
  Layer,
  Lettering,
  Level,
  Names,
  Line,
  Shape,
  ShapeName,
  StepOp,
  Steps,
  TracedPicture,
  Tracing,
} from "../document/types";

export type Range = { unit: string; what: string; whole: boolean; min?: number; above?: number; max?: number };
type Facts<Model> = { starts: Model; ranges: Record<string, Range> };

export const STEPS: { [Op in StepOp]: Facts<Omit<Steps[Op], "operand">> & { recipes: string[]; anchors: string[] } } = {
  "bleed": {"starts": {"off": false, "op": "bleed", "by": 1}, "ranges": {"by": {"unit": "mm", "what": "over the edge", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": ["operand"], "anchors": []},
  "block_shadow": {"starts": {"off": false, "op": "block_shadow", "dx": 3, "dy": -3}, "ranges": {"dx": {"unit": "mm", "what": "to the right", "whole": false, "min": -1000.0, "max": 1000.0}, "dy": {"unit": "mm", "what": "upwards", "whole": false, "min": -1000.0, "max": 1000.0}}, "recipes": [], "anchors": []},
  "bridge": {"starts": {"off": false, "only": null, "op": "bridge", "width": 2, "up_to": 10}, "ranges": {"width": {"unit": "mm", "what": "of each bridge", "whole": false, "min": 0.01, "max": 1000.0}, "up_to": {"unit": "mm", "what": "widest gap that is bridged", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": [], "anchors": ["only"]},
  "close_gaps": {"starts": {"off": false, "op": "close_gaps", "up_to": 3, "only": null}, "ranges": {"up_to": {"unit": "mm", "what": "widest gap that is closed", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": [], "anchors": ["only"]},
  "drop": {"starts": {"off": false, "pieces": [], "op": "drop"}, "ranges": {}, "recipes": [], "anchors": ["pieces"]},
  "drop_shadow": {"starts": {"off": false, "op": "drop_shadow", "dx": 1.5, "dy": -1.5, "underlap": 0.3, "visible_only": false}, "ranges": {"dx": {"unit": "mm", "what": "to the right", "whole": false, "min": -1000.0, "max": 1000.0}, "dy": {"unit": "mm", "what": "upwards", "whole": false, "min": -1000.0, "max": 1000.0}, "underlap": {"unit": "mm", "what": "how far the visible part reaches under its source", "whole": false, "min": 0.0, "max": 1000.0}}, "recipes": [], "anchors": []},
  "fill_holes": {"starts": {"off": false, "op": "fill_holes", "smaller_than": null, "narrower_than": null, "only": null}, "ranges": {"smaller_than": {"unit": "mm²", "what": "only holes under this area", "whole": false, "min": 0.0001, "max": 1000000.0}, "narrower_than": {"unit": "mm", "what": "only holes nowhere this wide", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": [], "anchors": ["only"]},
  "hole": {"starts": {"off": false, "op": "hole", "diameter": 4, "at": {"x": 0.5, "y": 1.0, "inset": 4.0}, "row": null}, "ranges": {"diameter": {"unit": "mm", "what": "of each hole", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": [], "anchors": []},
  "intersect": {"starts": {"off": false, "op": "intersect"}, "ranges": {}, "recipes": ["operand"], "anchors": []},
  "keep": {"starts": {"off": false, "pieces": [], "op": "keep"}, "ranges": {}, "recipes": [], "anchors": ["pieces"]},
  "offset": {"starts": {"off": false, "op": "offset", "corners": "round", "miter_limit": 4, "by": 4}, "ranges": {"by": {"unit": "mm", "what": "outwards; negative inwards", "whole": false, "min": -1000.0, "max": 1000.0}, "miter_limit": {"unit": "", "what": "longest tip, as a multiple of the distance", "whole": false, "min": 1.0, "max": 100.0}}, "recipes": [], "anchors": []},
  "open_gaps": {"starts": {"off": false, "op": "open_gaps", "to": 0.3, "only": null}, "ranges": {"to": {"unit": "mm", "what": "least width of gaps", "whole": false, "min": 0.01, "max": 100.0}}, "recipes": [], "anchors": ["only"]},
  "outline": {"starts": {"off": false, "op": "outline", "gap": 1.3, "width": 2, "corners": "round"}, "ranges": {"gap": {"unit": "mm", "what": "from the edge to the line; negative inside", "whole": false, "min": -1000.0, "max": 1000.0}, "width": {"unit": "mm", "what": "of the line", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": [], "anchors": []},
  "place": {"starts": {"off": false, "op": "place", "dx": 0, "dy": 0, "turn": 0, "scale_x": 1, "scale_y": 1, "mirror": false, "about": null}, "ranges": {"dx": {"unit": "mm", "what": "to the right", "whole": false, "min": -10000.0, "max": 10000.0}, "dy": {"unit": "mm", "what": "upwards", "whole": false, "min": -10000.0, "max": 10000.0}, "turn": {"unit": "degrees", "what": "counter-clockwise", "whole": false, "min": -3600.0, "max": 3600.0}, "scale_x": {"unit": "", "what": "stretched across", "whole": false, "min": -100.0, "max": 100.0}, "scale_y": {"unit": "", "what": "stretched upwards", "whole": false, "min": -100.0, "max": 100.0}}, "recipes": [], "anchors": []},
  "plate": {"starts": {"off": false, "op": "plate", "shape": "rounded", "margin": 6, "width": null, "height": null, "corner_radius": 5}, "ranges": {"margin": {"unit": "mm", "what": "around the art", "whole": false, "min": -1000.0, "max": 1000.0}, "width": {"unit": "mm", "what": "of the plate; follows the art where it is not said", "whole": false, "min": 0.01, "max": 1000.0}, "height": {"unit": "mm", "what": "of the plate; follows the art where it is not said", "whole": false, "min": 0.01, "max": 1000.0}, "corner_radius": {"unit": "mm", "what": "of a rounded plate's corners", "whole": false, "min": 0.0, "max": 1000.0}}, "recipes": [], "anchors": []},
  "round_off": {"starts": {"off": false, "op": "round_off", "outer": 1, "inner": 0, "only": null}, "ranges": {"outer": {"unit": "mm", "what": "radius of corners that stick out", "whole": false, "min": 0.0, "max": 1000.0}, "inner": {"unit": "mm", "what": "radius of corners that go in", "whole": false, "min": 0.0, "max": 1000.0}}, "recipes": [], "anchors": ["only"]},
  "stencil": {"starts": {"off": false, "only": null, "op": "stencil", "count": 2, "width": 2, "angle": 90}, "ranges": {"count": {"unit": "", "what": "bars of each piece", "whole": true, "min": 1.0, "max": 24.0}, "width": {"unit": "mm", "what": "of each bar", "whole": false, "min": 0.01, "max": 1000.0}, "angle": {"unit": "degrees", "what": "direction of the first, counter-clockwise from the right", "whole": false, "min": -3600.0, "max": 3600.0}}, "recipes": [], "anchors": ["only"]},
  "stitch": {"starts": {"off": false, "op": "stitch", "length": 3, "spacing": 1.5, "count": null, "pairs": false, "slant": 0, "inset": 2, "width": null, "outer_only": false, "motif": null}, "ranges": {"length": {"unit": "mm", "what": "of a stitch", "whole": false, "min": 0.01, "max": 1000.0}, "spacing": {"unit": "mm", "what": "between stitches", "whole": false, "min": 0.0, "max": 1000.0}, "count": {"unit": "", "what": "along each outline, however far apart that is", "whole": true, "min": 1.0, "max": 5000.0}, "slant": {"unit": "degrees", "what": "of every stitch against the outline", "whole": false, "min": -3600.0, "max": 3600.0}, "inset": {"unit": "mm", "what": "inside the outline; negative outside", "whole": false, "min": -1000.0, "max": 1000.0}, "width": {"unit": "mm", "what": "of closed marks; open strokes where it is not said", "whole": false, "min": 0.01, "max": 100.0}}, "recipes": ["motif"], "anchors": []},
  "subtract": {"starts": {"off": false, "op": "subtract"}, "ranges": {}, "recipes": ["operand"], "anchors": []},
  "tab": {"starts": {"off": false, "op": "tab", "hole": 4, "rim": 2.5, "reach": 2.5, "at": 135, "along": null}, "ranges": {"hole": {"unit": "mm", "what": "diameter of the hole", "whole": false, "min": 0.01, "max": 200.0}, "rim": {"unit": "mm", "what": "material around the hole", "whole": false, "min": 0.01, "max": 200.0}, "reach": {"unit": "mm", "what": "from the outline to the hole's middle", "whole": false, "min": -200.0, "max": 200.0}, "at": {"unit": "degrees", "what": "direction from the middle, counter-clockwise from the right", "whole": false, "min": -3600.0, "max": 3600.0}}, "recipes": ["along"], "anchors": []},
  "thicken": {"starts": {"off": false, "op": "thicken", "by": null, "to": 1, "where": "everywhere", "keep_open": null, "keep_only": null, "only": null}, "ranges": {"by": {"unit": "mm", "what": "added to the width of every stroke", "whole": false, "min": 0.01, "max": 100.0}, "to": {"unit": "mm", "what": "least width of a stroke", "whole": false, "min": 0.01, "max": 100.0}, "keep_open": {"unit": "mm", "what": "least width of holes", "whole": false, "min": 0.0, "max": 100.0}}, "recipes": [], "anchors": ["keep_only", "only"]},
  "tidy": {"starts": {"off": false, "op": "tidy", "area": 4, "width": null, "holes_too": false}, "ranges": {"area": {"unit": "mm²", "what": "smaller pieces are dropped", "whole": false, "min": 0.0001, "max": 1000000.0}, "width": {"unit": "mm", "what": "pieces nowhere this wide are dropped", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": [], "anchors": []},
  "underlap": {"starts": {"off": false, "op": "underlap", "by": 0.3, "within": 0.2}, "ranges": {"by": {"unit": "mm", "what": "under the edge", "whole": false, "min": 0.01, "max": 1000.0}, "within": {"unit": "mm", "what": "widest slit that is bridged", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": ["operand"], "anchors": []},
  "union": {"starts": {"off": false, "op": "union"}, "ranges": {}, "recipes": ["operand"], "anchors": []},
  "wall": {"starts": {"off": false, "op": "wall", "width": 0.8, "side": "outside"}, "ranges": {"width": {"unit": "mm", "what": "of the wall", "whole": false, "min": 0.01, "max": 1000.0}}, "recipes": [], "anchors": []},
};

export const SHAPES: { [Name in ShapeName]: Facts<Omit<Extract<Shape, { shape: Name }>, "id">> } = {
  "arch": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 80, "shape": "arch"}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}}},
  "banner": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 90, "height": 24, "shape": "banner", "notch": 8}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}, "notch": {"unit": "mm", "what": "how deep its ends are notched", "whole": false, "min": 0.0, "max": 1000.0}}},
  "cloud": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 40, "shape": "cloud"}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}}},
  "ellipse": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 40, "shape": "ellipse"}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}}},
  "heart": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 52, "shape": "heart"}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from tip to lobes", "whole": false, "min": 0.01, "max": 10000.0}}},
  "polygon": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 40, "shape": "polygon", "sides": 6}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}, "sides": {"unit": "", "what": "number of sides", "whole": true, "min": 3.0, "max": 100.0}}},
  "rectangle": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 40, "shape": "rectangle", "corner_radius": 0}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}, "corner_radius": {"unit": "mm", "what": "of its corners", "whole": false, "min": 0.0, "max": 1000.0}}},
  "ring": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 60, "shape": "ring", "thickness": 5}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}, "thickness": {"unit": "mm", "what": "of the band", "whole": false, "min": 0.01, "max": 1000.0}}},
  "speech_bubble": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 45, "shape": "speech_bubble", "corner_radius": 10, "tail": 10, "tail_width": 10, "tail_at": 0.25}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from the tail's tip to the top", "whole": false, "min": 0.01, "max": 10000.0}, "corner_radius": {"unit": "mm", "what": "of its corners", "whole": false, "min": 0.0, "max": 1000.0}, "tail": {"unit": "mm", "what": "how far the tail sticks out", "whole": false, "min": 0.0, "max": 1000.0}, "tail_width": {"unit": "mm", "what": "of the tail where it begins", "whole": false, "min": 0.01, "max": 1000.0}, "tail_at": {"unit": "", "what": "where it begins, as a share of the foot from left to right", "whole": false, "min": 0.0, "max": 1.0}}},
  "star": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 60, "height": 40, "shape": "star", "points": 5, "inner": 0.45}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}, "points": {"unit": "", "what": "number of points", "whole": true, "min": 3.0, "max": 100.0}, "inner": {"unit": "", "what": "how far its inner corners are from the middle, as a share", "whole": false, "min": 0.05, "max": 1.0}}},
  "tag": {"starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "shape", "width": 70, "height": 36, "shape": "tag", "cut": 9, "hole": 5, "inset": 9}, "ranges": {"width": {"unit": "mm", "what": "from side to side", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from foot to top", "whole": false, "min": 0.01, "max": 10000.0}, "cut": {"unit": "mm", "what": "how far the corners are cut off", "whole": false, "min": 0.0, "max": 1000.0}, "hole": {"unit": "mm", "what": "diameter of the hole; none where it is 0", "whole": false, "min": 0.0, "max": 1000.0}, "inset": {"unit": "mm", "what": "from the end to the hole's middle", "whole": false, "min": 0.01, "max": 1000.0}}},
};

export const WORDS: Facts<Omit<Lettering, "id" | "font">> = {
  "starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "kind": "lettering", "text": "", "size": 24, "letter_spacing": 0, "line_spacing": null, "align": "center", "line": null, "nudges": {}, "moves": {}, "join": null, "lowered": {}, "features": {}, "axes": {}, "into": null},
  "ranges": {"size": {"unit": "", "what": "size of the em, in mm", "whole": false, "min": 0.5, "max": 5000.0}, "letter_spacing": {"unit": "", "what": "added between letters, in mm", "whole": false, "min": -10000.0, "max": 10000.0}, "line_spacing": {"unit": "", "what": "distance of baselines, in ems; where it is not said, from the ink of the lines", "whole": false, "min": 0.0, "max": 10.0}},
};

export const DRAWING: Facts<Omit<Drawing, "id" | "file">> = {
  "starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "name": "", "kind": "drawing", "lines": "auto", "white_cuts": true, "left_out": [], "brought": []},
  "ranges": {},
};

export const TRACED: Facts<Omit<TracedPicture, "id" | "file" | "trace">> = {
  "starts": {"place": {"x": 0.0, "y": 0.0, "rotate": 0.0, "scale_x": 1.0, "scale_y": 1.0}, "against": null, "name": "", "kind": "picture", "width": 100},
  "ranges": {"width": {"unit": "mm", "what": "of the whole picture, from side to side", "whole": false, "min": 0.01, "max": 10000.0}},
};

export const TRACING: Facts<Tracing> = {
  "starts": {"threshold": null, "background": [], "smooth": null, "specks": 20, "holes": 12, "invert": false, "tones": 1, "tone": 1, "outer_only": false},
  "ranges": {"threshold": {"unit": "", "what": "", "whole": false, "min": 0.02, "max": 0.98}, "smooth": {"unit": "", "what": "in pixels", "whole": false, "min": 0.0, "max": 10.0}, "specks": {"unit": "", "what": "in square pixels", "whole": false, "min": 0.0, "max": 10000000.0}, "holes": {"unit": "", "what": "in square pixels", "whole": false, "min": 0.0, "max": 10000000.0}, "tones": {"unit": "", "what": "", "whole": true, "min": 1.0, "max": 6.0}, "tone": {"unit": "", "what": "", "whole": true, "min": 1.0, "max": 6.0}},
};

export const LAYER: Omit<Layer, "id"> = {
  "name": "",
  "process": "cut",
  "material": "ply-3",
  "colour": null,
  "hidden": false,
  "cut_with": [],
  "board": null,
  "leaving": null,
  "fill": null,
  "recipe": {"from": [], "steps": []},
};

export const LINE: Facts<Line> = {
  "starts": {"path": "arc_above", "radius": null, "height": 8, "length": null},
  "ranges": {"radius": {"unit": "mm", "what": "of the circle; else as the words need", "whole": false, "min": 0.01, "max": 10000.0}, "height": {"unit": "mm", "what": "from trough to crest", "whole": false, "min": 0.0, "max": 1000.0}, "length": {"unit": "mm", "what": "from crest to crest; else that of the words", "whole": false, "min": 0.01, "max": 1000.0}},
};

export const INTO: Facts<Omit<Into, "art">> = {
  "starts": {"fit": "width", "depth": 1, "frame": 4},
  "ranges": {"depth": {"unit": "mm", "what": "how deep the words reach into the frame", "whole": false, "min": 0.01, "max": 100.0}, "frame": {"unit": "mm", "what": "how wide the frame is, inside the shape's edge", "whole": false, "min": 0.0, "max": 1000.0}},
};

export const PICTURE: Facts<HandingOver["picture"]> = {
  "starts": {"dots_per_inch": 300, "background": null},
  "ranges": {"dots_per_inch": {"unit": "", "what": "dots for each inch", "whole": false, "min": 10.0, "max": 2400.0}},
};

export const CARVING: Facts<Omit<Carving, "board" | "levels">> = {
  "starts": {"sunk": [], "sunk_depth": 3, "bit": {"name": "60° V-bit", "feed": 1200.0, "plunge": 400.0, "turns": 18000.0, "down": 3.0, "kind": "v_bit", "angle": 60.0, "tip": 0.0, "diameter": 12.7}, "mill": {"name": "1/8 in end mill", "feed": 1200.0, "plunge": 400.0, "turns": 18000.0, "down": 2.0, "kind": "end_mill", "diameter": 3.175}, "ridge": 0.1, "step": 0.4, "way": "climb", "line_depth": 0.5, "pocket_depth": 1, "cut_out": true, "tabs": {"count": 4, "width": 8.0, "height": 2.0}, "safe": 5, "change": "files", "gcode": true},
  "ranges": {"sunk_depth": {"unit": "mm", "what": "of what is sunk, at most: it ends in a flat floor there", "whole": false, "min": 0.01, "max": 200.0}, "ridge": {"unit": "mm", "what": "high at most, where the bit clears what the mill left of a floor", "whole": false, "min": 0.01, "max": 5.0}, "step": {"unit": "", "what": "of the mill's width, from pass to pass", "whole": false, "min": 0.05, "max": 0.95}, "line_depth": {"unit": "mm", "what": "of lines that are scored", "whole": false, "min": 0.01, "max": 100.0}, "pocket_depth": {"unit": "mm", "what": "of areas that are engraved", "whole": false, "min": 0.01, "max": 100.0}, "safe": {"unit": "mm", "what": "over the board, where tools go from place to place", "whole": false, "min": 0.01, "max": 200.0}},
};

export const LEVEL: Facts<Level> = {
  "starts": {"layers": [], "depth": 2.5},
  "ranges": {"depth": {"unit": "mm", "what": "of the ground under their tops", "whole": false, "min": 0.01, "max": 200.0}},
};

export const NAMES: Names = {
  "columns": [],
  "rows": [],
  "fits": [],
  "own": [],
  "laying": null,
  "file": "{n} {words}",
};

export const FIT: Facts<Omit<Fit, "art">> = {
  "starts": {"rule": "keep", "width": 80, "least": 0.7},
  "ranges": {"width": {"unit": "mm", "what": "that the words may be wide; exactly so where they are stretched", "whole": false, "min": 0.01, "max": 1000.0}, "least": {"unit": "", "what": "of their width, the narrowest that they are stretched to", "whole": false, "min": 0.1, "max": 1.0}},
};

export const TABLE: HandingOver["table"] = {
  "cut": {"draw": "line", "colour": "#7a1648", "line_width": 0.1, "spot": ""},
  "through": {"draw": "line", "colour": "#d66f33", "line_width": 0.1, "spot": ""},
  "score": {"draw": "line", "colour": "#1d8275", "line_width": 0.1, "spot": ""},
  "draw": {"draw": "line", "colour": "#3354b0", "line_width": 0.1, "spot": ""},
  "engrave": {"draw": "area", "colour": "#d69a2d", "line_width": 0.1, "spot": ""},
  "print": {"draw": "area", "colour": null, "line_width": 0.1, "spot": ""},
  "carve": {"draw": "area", "colour": null, "line_width": 0.1, "spot": ""},
};
