"""What an element of an SVG file looks like: attributes, style sheets, and what it inherits (SVG 2, section 6)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, TypeAlias, cast

import cssselect2
import tinycss2
from lxml import etree
from tinycss2 import color4

#: An element of the file.
Node: TypeAlias = etree._Element  # pyright: ignore[reportPrivateUsage]

SVG = "{http://www.w3.org/2000/svg}"

#: Properties that are read, with what they are at the root; those of the second kind are not handed down.
INHERITED = {
    "fill": "black",
    "fill-rule": "nonzero",
    "clip-rule": "nonzero",
    "fill-opacity": "1",
    "stroke": "none",
    "stroke-width": "1",
    "stroke-linecap": "butt",
    "stroke-linejoin": "miter",
    "stroke-miterlimit": "4",
    "stroke-dasharray": "none",
    "stroke-dashoffset": "0",
    "stroke-opacity": "1",
    "visibility": "visible",
    "color": "black",
    "font-size": "16",
    "marker-start": "none",
    "marker-mid": "none",
    "marker-end": "none",
    "marker": "none",
}
OWN = {
    "display": "inline",
    "opacity": "1",
    "clip-path": "none",
    "mask": "none",
    "filter": "none",
    "overflow": "hidden",
    "vector-effect": "none",
    "transform": "",
}
#: Of shapes: in SVG 2 they are properties, too.
GEOMETRY = ("x", "y", "width", "height", "rx", "ry", "cx", "cy", "r", "d")

Style = Mapping[str, str]


class Sheets:
    """The style sheets of a file."""

    def __init__(self, root: Node) -> None:
        self._matcher = cssselect2.Matcher()
        self.rules = 0
        self._wrapped: dict[Any, cssselect2.ElementWrapper] = {}
        for sheet in root.iter(f"{SVG}style"):
            if sheet.get("type", "text/css") in ("", "text/css") and sheet.get("media", "all") in ("", "all", "screen"):
                self._add("".join(cast("Iterable[str]", sheet.itertext())))
        if self.rules:
            wrapper = cssselect2.ElementWrapper.from_xml_root(root)
            self._wrapped = {one.etree_element: one for one in wrapper.iter_subtree()}

    def _add(self, text: str) -> None:
        for rule in tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True):
            if rule.type != "qualified-rule":
                continue
            try:
                selectors = cssselect2.compile_selector_list(rule.prelude)
            except cssselect2.SelectorError:
                continue
            said = _declarations(rule.content)
            for selector in selectors:
                self._matcher.add_selector(selector, said)
                self.rules += 1

    def said(self, element: Node) -> dict[str, str]:
        """What an element's attributes, the sheets and its own style say of it, the strongest last."""
        known = (*INHERITED, *OWN, *GEOMETRY)
        found: dict[str, str] = {name: value for name in known if (value := element.get(name)) is not None}
        urgent: dict[str, str] = {}
        wrapped = self._wrapped.get(element)
        matches = sorted(self._matcher.match(wrapped), key=lambda one: one[:2]) if wrapped is not None else []
        own = element.get("style")
        for said in [
            *(one[3] for one in matches),
            *([_declarations(tinycss2.parse_component_value_list(own))] if own else []),
        ]:
            for name, (value, important) in said.items():
                found[name] = value
                if important:
                    urgent[name] = value
        return found | urgent


def style_of(said: Mapping[str, str], above: Style) -> dict[str, str]:
    """All properties of an element below one of that style."""
    made = {name: above[name] for name in INHERITED} | dict(OWN)
    for name, value in said.items():
        value = value.strip()
        if name not in made or not value:
            continue
        if value == "inherit":
            value = above.get(name, made[name])
        elif value in ("initial", "unset"):
            value = {**INHERITED, **OWN}[name] if value == "initial" or name in OWN else above[name]
        elif name == "color" and value.lower() == "currentcolor":
            value = above["color"]
        elif name in ("color", "fill", "stroke") and not _is_paint(value, name):
            continue
        made[name] = value
    return made


def _is_paint(value: str, name: str) -> bool:
    return (name != "color" and (value == "none" or value.lower().startswith("url("))) or (
        color4.parse_color(value) is not None
    )


def _declarations(content: Iterable[Any]) -> dict[str, tuple[str, bool]]:
    parsed = tinycss2.parse_blocks_contents(list(content), skip_comments=True, skip_whitespace=True)
    return {
        one.lower_name: (tinycss2.serialize(one.value).strip(), one.important)
        for one in parsed
        if one.type == "declaration"
    }


def colour_of(value: str, current: str) -> tuple[str, float] | None:
    """(#rrggbb, opacity) of a plain colour; None for what is none."""
    if value.lower() == "currentcolor":
        value = current
    found = color4.parse_color(value)
    if found is None or isinstance(found, str):
        return None
    red, green, blue, alpha = found.to("srgb")
    channels = [min(255, max(0, round(255 * (one or 0)))) for one in (red, green, blue)]
    return "#{:02x}{:02x}{:02x}".format(*channels), 1.0 if alpha is None else float(alpha)
