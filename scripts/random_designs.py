"""Random designs as plain JSON: for comparing what two versions of the program make of them, and for fuzzing.

python scripts/random_designs.py OUT [COUNT] [SEED]
"""

from __future__ import annotations

import json
import random
import sys
from pathlib import Path
from typing import Any

Data = dict[str, Any]

FONTS = (
    "pacifico", "lobster", "anton", "bevan", "bebas-neue", "graduate", "alfa-slab-one", "baloo-2",
    "great-vibes", "allura", "playball", "courgette", "kaushan-script", "work-sans", "varela-round",
)  # fmt: skip
WORDS = ("Fenna", "Bram", "Idris", "Ottoline", "High Wind", "KITES", "Zoë", "fjord i?", "Ostrel\nBay", "&", "Crew 7")
#: Of up to 60 letters.
TEXTS = (
    "Ottoline and Fenna of the Launch Field, kite by kite and day",
    "Launch Field Kite Crew, Ostrel, every second Sunday at ten.",
    "Bram\nand the High Wind\nkite day 2026\nOstrel Launch Field",
    "Happy birthday Fenna\nmany high winds to you",
    "Idris Ottoline Zoë Bram Fenna Juno Crew 7 & friends",
    "KITES OVER OSTREL\nLAUNCH FIELD CREW\nSINCE 1987",
)
MATERIALS = ("vinyl", "vinyl-white", "card", "felt", "acrylic-3", "ply-3", "ply-4", "foam", "board-12", "print-3")
PROCESSES = ("cut", "cut", "cut", "cut", "score", "engrave", "print", "guide")


class _Dice:
    def __init__(self, seed: int) -> None:
        self.roll = random.Random(seed)

    def number(self, low: float, high: float) -> float:
        return round(self.roll.uniform(low, high), 2)

    def chance(self, share: float) -> bool:
        return self.roll.random() < share

    def words(self, id: str) -> Data:
        made: Data = {
            "id": id,
            "text": self.roll.choice(WORDS),
            "font": self.roll.choice(FONTS),
            "size": self.number(14, 60),
            "place": {"x": self.number(-20, 20), "y": self.number(-30, 30)},
        }
        if self.chance(0.4):
            made["join"] = {"overlap": self.number(0.1, 0.8)}
        if self.chance(0.2):
            made["letter_spacing"] = self.number(-1, 3)
        if self.chance(0.2):
            made["place"] |= {"rotate": self.number(-40, 40), "scale_x": self.number(0.6, 1.6)}
        if self.chance(0.1):
            made["lowered"] = {"0": 0.4, "3": 0.4}
        if self.chance(0.1):
            made["nudges"] = {"1": self.number(-1, 2)}
        return made

    def step(self, sources: list[str], letters: str) -> Data:
        roll, n = self.roll, self.number
        operand: Data = {"from": [roll.choice(sources)], "steps": [{"op": "offset", "by": n(0.3, 4)}]}
        spot = {"art": letters, "letter": 0, "x": n(-0.2, 0.2), "y": n(-0.2, 0.2)}
        return roll.choice(
            (
                lambda: {"op": "offset", "by": n(-0.8, 6), "corners": roll.choice(("round", "miter", "bevel"))},
                lambda: {"op": "offset", "by": n(1, 5)},
                lambda: {"op": "outside"},
                lambda: {"op": "fill_holes", "smaller_than": n(1, 30)},
                lambda: {"op": "fill_holes", "only": [spot]},
                lambda: {"op": "outline", "gap": n(0.3, 2), "width": n(0.6, 2)},
                lambda: {"op": "close_gaps", "up_to": n(0.5, 5)},
                lambda: {"op": "open_gaps", "to": n(0.2, 1)},
                lambda: {"op": "bridge", "width": n(1, 3), "up_to": n(2, 20)},
                lambda: {"op": "stencil", "count": roll.randint(1, 4), "width": n(0.8, 2)},
                lambda: {"op": "thicken", "to": n(0.8, 2)},
                lambda: {"op": "thicken", "by": n(0.2, 1)},
                lambda: {"op": "round_off", "outer": n(0.2, 1.5), "inner": n(0, 1)},
                lambda: {"op": "union", "operand": operand},
                lambda: {"op": "subtract", "operand": operand},
                lambda: {"op": "intersect", "operand": operand},
                lambda: {"op": "underlap", "operand": operand},
                lambda: {"op": "drop_shadow", "dx": n(-3, 3), "dy": n(-3, 3), "visible_only": roll.random() < 0.5},
                lambda: {"op": "block_shadow", "dx": n(-4, 4), "dy": n(-4, 4)},
                lambda: {"op": "plate", "shape": roll.choice(("rectangle", "rounded", "ellipse", "arch"))},
                lambda: {"op": "tab", "at": n(0, 360), "along": operand if roll.random() < 0.5 else None},
                lambda: {"op": "hole", "diameter": n(2, 5)},
                lambda: {"op": "wall", "width": n(0.6, 3), "side": roll.choice(("inside", "centred", "outside"))},
                lambda: {"op": "place", "dx": n(-3, 3), "turn": n(-20, 20), "mirror": roll.random() < 0.3},
                lambda: {"op": "tidy", "area": n(1, 10), "width": n(0.5, 1), "holes_too": roll.random() < 0.5},
                lambda: {"op": "keep", "pieces": [spot]},
                lambda: {"op": "drop", "pieces": [spot]},
                lambda: {"op": "stitch", "spacing": n(0.5, 3), "outer_only": roll.random() < 0.5},
            )
        )()

    def design(self) -> Data:
        art = [self.words(id) for id in ("one", "two", "three")[: self.roll.choice((1, 1, 2, 2, 3))]]
        layers: list[Data] = []
        sources = [one["id"] for one in art]
        for number in range(self.roll.randint(1, 4)):
            steps = [self.step(sources, art[0]["id"]) for _ in range(self.roll.choice((0, 1, 1, 2, 2, 3)))]
            layer: Data = {
                "id": f"layer-{number}",
                "name": f"Layer {number}",
                "process": self.roll.choice(PROCESSES),
                "material": self.roll.choice(MATERIALS),
                "recipe": {
                    "from": self.roll.sample(sources, self.roll.choice((1, 1, min(2, len(sources))))),
                    "steps": steps,
                },
            }
            layers.insert(0, layer)
            sources.append(layer["id"])
        made: Data = {"format": "tin-halo/1", "name": "Random", "art": art, "layers": layers}
        if self.chance(0.15):
            made["sheet"] = {"width": 200, "height": 120, "x": -100, "y": -60}
        return made

    def large(self) -> Data:
        """As much as a maker puts into one design: up to 60 letters, four layers and ten steps."""
        words = self.roll.choice(TEXTS).split(" ")
        texts = [" ".join(words)]
        if self.chance(0.5):
            cut = self.roll.randint(1, min(3, len(words) - 1))
            texts = [" ".join(words[:cut]), " ".join(words[cut:])]
        art = [
            self.words(f"words-{k}") | {"text": text, "size": self.number(10, 40), "place": {"y": -50 * k}}
            for k, text in enumerate(texts)
        ]
        sources = [one["id"] for one in art]
        layers: list[Data] = []
        left = self.roll.randint(1, 10)
        for number in range(self.roll.randint(1, 4)):
            steps = [self.step(sources, sources[0]) for _ in range(self.roll.randint(0, min(left, 5)))]
            left -= len(steps)
            layers.append(
                {
                    "id": f"layer-{number}",
                    "process": self.roll.choice(PROCESSES),
                    "material": self.roll.choice(MATERIALS),
                    "recipe": {
                        "from": sources if self.chance(0.7) else [self.roll.choice(sources)],
                        "steps": steps,
                    },
                }
            )
        return {"format": "tin-halo/1", "name": "Random", "art": art, "layers": layers}


def large_design(seed: int) -> Data:
    """The large design of that number: always the same one."""
    return _Dice(seed).large()


def random_design(seed: int) -> Data:
    """The design of that number: always the same one."""
    return _Dice(seed).design()


if __name__ == "__main__":
    out, count, first = Path(sys.argv[1]), int(sys.argv[2]) if sys.argv[2:] else 200, 1
    out.mkdir(parents=True, exist_ok=True)
    for seed in range(first, first + count):
        (out / f"random-{seed:04}.json").write_text(json.dumps(random_design(seed), ensure_ascii=False), "utf-8")
