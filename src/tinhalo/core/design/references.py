"""What a design's parts name: ids that are there, and no circles."""

from __future__ import annotations

from collections.abc import Callable

from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.document import graph

#: Letters of all words, steps of all layers, and recipes inside recipes.
MOST_LETTERS, MOST_STEPS, MOST_DEPTH = 20_000, 1_000, 10


def check_references(design: Design) -> None:
    """Refuse duplicate ids, unknown names, and layers or art that go round in a circle.

    Raises:
        DesignError: naming what is concerned.
    """
    problems = [*_too_much(design)]
    if problems:
        raise DesignError(problems)
    problems = [*_repeated(design)]
    ids = {thing.id for thing in (*design.art, *design.layers)}
    art = {one.id for one in design.art}
    for index, layer in enumerate(design.layers):
        problems += _unknown(layer, f"layers.{index}.recipe", ids, art)
    problems += _art_problems(design) + _cut_problems(design) + _carving_problems(design)
    problems += _list_problems(design)
    titles = {layer.id: layer.title for layer in design.layers}
    circle = graph.circle(design.made_from)
    if circle:
        chain = _chain(circle, lambda one, other: f"“{titles[one]}” is made from “{titles[other]}”")
        problems.append(Problem("layers", f"These layers go round in a circle: {chain}. Take one of them out."))
    if problems:
        raise DesignError(problems)


def _too_much(design: Design) -> list[Problem]:
    """What a document holds as a whole is limited: nobody cuts more, and no machine works it out in time."""
    letters = sum(len(art.title) for art in design.art)
    depths = {layer.title: layer.recipe.depth for layer in design.layers}
    steps = sum(layer.recipe.count for layer in design.layers)
    problems: list[Problem] = []
    if letters > MOST_LETTERS:
        sentence = f"The words have {letters:,} letters together; {MOST_LETTERS:,} is the most of one design."
        problems.append(Problem("art", sentence))
    if steps > MOST_STEPS:
        sentence = f"The layers have {steps:,} steps together; {MOST_STEPS:,} is the most of one design."
        problems.append(Problem("layers", sentence))
    problems += [
        Problem("layers", f"The recipe of the layer “{title}” goes {depth} deep; {MOST_DEPTH} is the most.")
        for title, depth in depths.items()
        if depth > MOST_DEPTH
    ]
    return problems


def _repeated(design: Design) -> list[Problem]:
    problems: list[Problem] = []
    ids: set[str] = set()
    for kind, things in (("art", design.art), ("layers", design.layers)):
        for index, thing in enumerate(things):
            if thing.id in ids:
                problems.append(Problem(f"{kind}.{index}.id", f"The id “{thing.id}” is used twice; ids must differ."))
            ids.add(thing.id)
    return problems


def _unknown(layer: Layer, where: str, ids: set[str], art: set[str]) -> list[Problem]:
    """What a layer names that is not there."""
    missing = [name for name in dict.fromkeys(layer.recipe.named()) if name not in ids]
    loose = [name for name in dict.fromkeys(anchor.art for anchor in layer.recipe.anchors()) if name not in art]
    return [
        Problem(where, f"The layer “{layer.title}” is made from “{name}”, but no art and no layer has that id.")
        for name in missing
    ] + [
        Problem(where, f"The layer “{layer.title}” has a place picked on “{name}”, but no art has that id.")
        for name in loose
    ]


def _art_problems(design: Design) -> list[Problem]:
    """Art that stands by what is not there, is set into words, or by one another in a circle."""
    kinds = {art.id: art.kind for art in design.art}
    problems: list[Problem] = []
    for index, art in enumerate(design.art):
        for field in art.relations:
            relation = getattr(art, field)
            verb = "set into" if field == "into" else "set against"
            if relation is None:
                continue
            if relation.art not in kinds:
                sentence = f"“{art.id}” is {verb} “{relation.art}”, but no art has that id."
                problems.append(Problem(f"art.{index}.{field}", sentence))
            elif field == "into" and kinds[relation.art] == "lettering":
                sentence = f"“{art.id}” is set into “{relation.art}”, which is words: they go into anything else."
                problems.append(Problem(f"art.{index}.{field}", sentence))
    circle = graph.circle(design.stands_by)
    if circle:
        chain = _chain(circle, lambda one, other: f"“{one}” by “{other}”")
        problems.append(Problem("art", f"Art is set by one another in a circle: {chain}. Let one of it stand free."))
    return problems


def _cut_problems(design: Design) -> list[Problem]:
    """Two layers that leave their shared edge to each other, so that nobody would cut it."""
    given = {layer.id: layer.cut_with for layer in design.layers}
    return [
        Problem(
            f"layers.{index}.cut_with",
            f"The layer “{layer.title}” leaves its shared edges to “{name}”, and that leaves them back to it: "
            "nobody would cut them.",
        )
        for index, layer in enumerate(design.layers)
        for name in layer.cut_with
        if name == layer.id or layer.id in given.get(name, ())
    ]


def _carving_problems(design: Design) -> list[Problem]:
    """Layers that are carved and are not there, or stand at two heights."""
    if design.carving is None:
        return []
    ids = {layer.id for layer in design.layers}
    named = [*(id for level in design.carving.levels for id in level.layers), *design.carving.sunk]
    problems = [
        Problem("carving", f"The carving has a layer “{id}”, but no layer has that id.")
        for id in dict.fromkeys([design.carving.board, *named])
        if id not in ids
    ]
    twice = sorted({id for id in named if named.count(id) > 1 or id == design.carving.board})
    return problems + [
        Problem("carving.levels", f"The layer “{id}” has two places in the carving; give it one.") for id in twice
    ]


def _list_problems(design: Design) -> list[Problem]:
    """Columns of a list, and rules of fit, for words that are not there."""
    if design.names is None:
        return []
    art, layers = {one.id for one in design.art}, {one.id for one in design.layers}
    columns = design.names.columns
    named = [*(one.art for one in columns if one.art), *(one.art for one in design.names.fits)]
    made = [one.layer for one in columns if one.layer]
    return [
        Problem("names", f"The list has words for “{id}”, but no art has that id.")
        for id in dict.fromkeys(named)
        if id not in art
    ] + [
        Problem("names", f"The list has materials for “{id}”, but no layer has that id.")
        for id in dict.fromkeys(made)
        if id not in layers
    ]


def _chain(circle: list[str], told: Callable[[str, str], str]) -> str:
    return ", ".join(told(one, other) for one, other in zip(circle, [*circle[1:], circle[0]], strict=True))
