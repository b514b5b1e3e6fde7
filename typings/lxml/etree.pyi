from collections.abc import Iterator, Mapping
from typing import overload

class _Element:
    tag: object
    attrib: Mapping[str, str]
    @overload
    def get(self, key: str) -> str | None: ...
    @overload
    def get(self, key: str, default: str) -> str: ...
    def iter(self, tag: str = ...) -> Iterator[_Element]: ...
    def itertext(self) -> Iterator[str]: ...
    def __iter__(self) -> Iterator[_Element]: ...

class XMLParser:
    def __init__(
        self,
        *,
        resolve_entities: bool | str = ...,
        no_network: bool = ...,
        load_dtd: bool = ...,
        huge_tree: bool = ...,
        remove_comments: bool = ...,
        remove_pis: bool = ...,
    ) -> None: ...

class XMLSyntaxError(SyntaxError): ...

def fromstring(text: bytes, parser: XMLParser) -> _Element: ...
