"""Recipes: how a layer's region comes from art, step by step. One module per step."""
