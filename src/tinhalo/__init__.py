"""Tin Halo: words into stacked, cuttable layers at true size."""
