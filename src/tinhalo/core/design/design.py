"""The design document: art, layers and their recipes. Plain data; ``build`` turns it into outlines."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.artwork.art import Art
from tinhalo.core.artwork.kinds import AnyArt
from tinhalo.core.design.carving import Carving
from tinhalo.core.design.colour_way import ColourWay
from tinhalo.core.design.hand_over import CUTS, HandOver, Leaving, Process
from tinhalo.core.design.names import Names, OfList
from tinhalo.core.design.print_fill import PrintFill
from tinhalo.core.document import graph
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.base import READABLE, Colour, Identifier, Strict
from tinhalo.core.document.fields import mm
from tinhalo.core.materials import DEFAULT_MATERIAL, Material, find_material, unknown_material
from tinhalo.core.recipe.kinds import Recipe
from tinhalo.core.units import Unit

FORMAT = "tin-halo/1"

Name = Annotated[str, Field(max_length=200), READABLE]


class Layer(Strict):
    """One thing that is made from one material. ``hidden`` layers are neither shown nor handed over.

    ``colour`` is that of its material, where it is not the usual one. ``cut_with`` names layers of the same sheet:
    where its edge lies on theirs, their cut serves both. ``board`` names the board that it is cut from, where that is
    not the one of its material. ``leaving`` is how it leaves, where that is not as the process does.
    """

    id: Identifier
    name: Name = ""
    process: Process = "cut"
    material: Annotated[str, Field(max_length=64)] = DEFAULT_MATERIAL
    colour: Colour | None = None
    hidden: bool = False
    cut_with: Annotated[tuple[Identifier, ...], Field(max_length=100)] = ()
    board: Annotated[str | None, Field(min_length=1, max_length=64), READABLE] = None
    leaving: Leaving | None = None
    fill: PrintFill | None = None
    recipe: Recipe = Recipe()

    def shares_cuts(self, other: Layer) -> bool:
        """Whether one of the two, made of one stock, leaves edges that both have to the other's cut."""
        return self.stock == other.stock and (self.id in other.cut_with or other.id in self.cut_with)

    @property
    def stock(self) -> tuple[str, str | None]:
        """What it is cut from: the material's id, and a colour if it is not the usual one."""
        return (self.material, self.colour)

    @property
    def printed_with(self) -> PrintFill | None:
        """What is printed over its colour, if anything is."""
        return self.fill if self.process == "print" else None

    @property
    def leaves(self) -> bool:
        """Whether it is handed over: neither hidden nor a guide."""
        return not self.hidden and self.process != "guide"

    @property
    def title(self) -> str:
        """What the layer is called in messages and files."""
        return self.name.strip() or self.id


class Accepted(Strict):
    """A finding that may stay as it is. It stays accepted until its place changes.

    Attributes:
        kind: the finding's kind.
        layer: id of the layer it concerns, if any.
        spot: its place beside a part of some art, if it has one.
        everywhere: whether all findings of that kind and layer may stay, wherever they are.
        note: why it may stay.
    """

    kind: Annotated[str, Field(max_length=40)]
    layer: Annotated[str | None, Field(max_length=64)] = None
    spot: Anchor | None = None
    everywhere: bool = False
    note: Annotated[str, Field(max_length=500), READABLE] = ""


class Sheet(Strict):
    """What a job is laid on to be made: files get its size, so that everything lies on it as it does on the drawing.

    ``x`` and ``y`` are its lower left corner.
    """

    width: Annotated[float, mm("from side to side", gt=0, le=10_000)] = 300
    height: Annotated[float, mm("from foot to top", gt=0, le=10_000)] = 200
    x: Annotated[float, mm("left edge", ge=-100_000, le=100_000)] = 0
    y: Annotated[float, mm("lower edge", ge=-100_000, le=100_000)] = 0

    @property
    def box(self) -> tuple[float, float, float, float]:
        """(min x, min y, max x, max y) in mm."""
        return (self.x, self.y, self.x + self.width, self.y + self.height)


class Design(Strict):
    """One saved job. Layers are listed from the top of the stack to the bottom; lengths are in mm.

    ``materials`` are one's own that its layers are made of: they go where the design goes. ``sheet`` is what all of it
    is laid on, where that matters. ``hand_over`` is how it leaves. ``colour_ways`` are other materials and colours for
    the same layers. ``carving`` is how a board is carved, where one is. ``names`` is a list that it is made for, row by
    row; ``of_list`` tells whose row it is itself.
    """

    format: Literal["tin-halo/1"]
    name: Name = "Untitled"
    unit: Unit = "mm"
    art: Annotated[tuple[AnyArt, ...], Field(max_length=100, description="words and shapes")] = ()
    layers: Annotated[tuple[Layer, ...], Field(max_length=100)] = ()
    materials: Annotated[tuple[Material, ...], Field(max_length=50)] = ()
    sheet: Sheet | None = None
    accepted: Annotated[tuple[Accepted, ...], Field(max_length=5_000)] = ()
    hand_over: HandOver = HandOver()
    colour_ways: Annotated[tuple[ColourWay, ...], Field(max_length=50)] = ()
    carving: Carving | None = None
    names: Names | None = None
    of_list: OfList | None = None

    def material_of(self, layer: Layer) -> Material:
        """What a layer is made of, in its colour."""
        made = find_material(layer.material, self.materials) or unknown_material(layer.material)
        return made.model_copy(update={"colour": layer.colour}) if layer.colour else made

    def dressed(self, way: ColourWay) -> Design:
        """The design in the materials and colours of a colour way."""
        worn = {one.layer: {"material": one.material, "colour": one.colour, "fill": one.fill} for one in way.layers}
        layers = tuple(one.model_copy(update=worn.get(one.id, {})) for one in self.layers)
        return self.model_copy(update={"layers": layers})

    def leaving_of(self, layer: Layer) -> Leaving:
        """How a layer leaves."""
        return layer.leaving or self.hand_over.table.of(layer.process)

    @property
    def file_unit(self) -> Unit:
        """The unit of files whose numbers have one that can be chosen."""
        return self.unit if self.hand_over.dxf_unit == "design" else self.hand_over.dxf_unit

    def art_title(self, id: str) -> str:
        """What a piece of art is called; its id where there is nothing to call it by."""
        return next((one.title for one in self.art if one.id == id), "") or id

    def served_by(self, layer: Layer) -> list[str]:
        """Ids of the layers whose cut serves a layer's shared edges, too: those that come from one sheet with it."""
        return [
            one.id
            for one in self.layers
            if one.id in layer.cut_with
            and (one.leaves, one.process, one.stock) == (True, "cut", layer.stock)
            and layer.process in CUTS
        ]

    def ancestors(self, layer: Layer) -> set[str]:
        """Ids of all art and layers that a layer is made from, directly or through other layers."""
        return graph.ancestors(self.made_from, layer.id)

    @property
    def made_from(self) -> graph.Names:
        """Of each layer the ids of what it is made from."""
        return {layer.id: list(layer.recipe.named()) for layer in self.layers}

    @property
    def stands_by(self) -> graph.Names:
        """Of each piece of art the ids of the art that it stands by."""
        return {art.id: art.named() for art in self.art}

    def art_order(self) -> list[Art]:
        """Art so that each comes after what it stands by; see ``layer_order``."""
        by_id = {art.id: art for art in self.art}
        return [by_id[id] for id in graph.in_order(self.stands_by)]

    def layer_order(self) -> list[Layer]:
        """Layers so that each comes after every layer it is made from.

        Raises:
            CycleError: where they go round in a circle; ``check_references`` tells that in a sentence.
        """
        by_id = {layer.id: layer for layer in self.layers}
        return [by_id[id] for id in graph.in_order(self.made_from)]
