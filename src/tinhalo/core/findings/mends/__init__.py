"""What findings offer, how it changes the document, and mending what that brings along."""
