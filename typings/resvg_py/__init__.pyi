# The part of resvg that is used here.
def svg_to_bytes(
    *,
    svg_string: str,
    background: str | None = ...,
    dpi: float = ...,
    width: int = ...,
    height: int = ...,
    skip_system_fonts: bool = ...,
) -> bytes: ...
