# The part of resvg that is used here.
def svg_to_bytes(
    *,
    svg_string: str,
    background: str | None = ...,
    dpi: float = ...,
    skip_system_fonts: bool = ...,
) -> bytes: ...
