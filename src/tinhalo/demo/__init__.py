"""The demo designs: the Ostrel Bay Kite Fair."""
