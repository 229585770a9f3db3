"""One module a format; each has a function title()."""
