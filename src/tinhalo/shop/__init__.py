"""Practice machines: simulated cutters that ship with the app, stand-ins for real ones."""
