"""How well a page was captured, by scanner or by camera."""
