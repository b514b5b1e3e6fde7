"""The web API: one router per resource, thin; errors as problem details (RFC 9457)."""
