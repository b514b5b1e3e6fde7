"""Areas with a height: meshes."""
