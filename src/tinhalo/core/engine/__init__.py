"""build(design, library) -> Build, what it gives, the stack, and what asks for builds."""
