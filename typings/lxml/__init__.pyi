# The part of lxml that is used here; the package ships no annotations.
