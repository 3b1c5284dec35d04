"""A property worked out once, without the lock that Python took before 3.12: two threads may work it out twice, to one end."""

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from functools import cached_property
else:
    import functools

    class cached_property(functools.cached_property):  # noqa: N801 - it stands in for the standard one
        """As the standard one, for pure functions of frozen records."""

        def __get__(self, instance: object, owner: type | None = None) -> Any:
            """Return the value, worked out and kept the first time."""
            if instance is None:
                return self
            value = instance.__dict__[self.attrname] = self.func(instance)
            return value


__all__ = ["cached_property"]
