"""Where *stop* and *watch* begin."""

from bicentra.core.base.records import Record


class Limit(Record, frozen=True):
    """Where *stop* and *watch* begin. ``at_least``: the value must not fall below, else it must not rise above.

    A job that overrides the limit moves ``stop``; the width of the watch band stays as it was.
    """

    stop: float
    watch: float
    at_least: bool = True
    unit: str = "mm"
    source: str = "Common practice, no published source"

    def moved_to(self, stop: float | None) -> "Limit":
        """Return this limit with its stop at ``stop`` (its own unit; ``None``: unchanged), the watch band moved along."""
        if stop is None:
            return self
        return Limit(stop, stop + (self.watch - self.stop), self.at_least, self.unit, "Set in this job")
