"""One family of errors. A message names the field, what was found and what was expected."""


class BicentraError(Exception):
    """Root of every error the program raises on purpose."""


class QuantityError(BicentraError, ValueError):
    """A typed quantity that cannot be read. ``text`` is what was typed, ``expected`` what would be understood."""

    def __init__(self, text: str, found: str, expected: str) -> None:
        self.text, self.found, self.expected = text, found, expected
        super().__init__(f"found {found}; expected {expected}")


class JobError(BicentraError, ValueError):
    """A value in a job that cannot be: ``path`` is the key path, for example ``rotor.diameter_mm``."""

    def __init__(self, path: str, found: str, expected: str) -> None:
        self.path, self.found, self.expected = path, found, expected
        super().__init__(f"{path}: found {found}; expected {expected}")


class JobFileError(BicentraError, ValueError):
    """A job file that cannot be used; the message is one line: file, key path, found, expected."""

    def __init__(self, file: str, path: str, found: str, expected: str) -> None:
        self.file, self.path, self.found, self.expected = file, path, found, expected
        super().__init__(" ".join(f"{file}: {path}: found {found}; expected {expected}".split()))


class OutlineError(BicentraError, ValueError):
    """A plate outline that cannot be made; the message says where it fails and what would cure it."""


class ExportError(BicentraError):
    """A paper or file that cannot be written; the message says which, why, and what to do."""


class StoreError(BicentraError, OSError):
    """A job that could not be saved or read from disk; the job in memory is intact."""


class ChangedOnDiskError(StoreError):
    """A job's file that somebody else has changed since it was opened; it is only written over when that is said."""


class ConvergenceError(BicentraError, ArithmeticError):
    """An iteration that did not settle: what it was, how far off it stood, and what to do next."""

    def __init__(self, what: str, residual: float, next_step: str) -> None:
        self.residual, self.next_step = residual, next_step
        super().__init__(f"{what} (still off by {residual:.3g}); {next_step}")


class ReadingsError(BicentraError, ValueError):
    """A table of readings that cannot be used; the message names file, row, column, what was found and expected."""

    def __init__(self, file: str, row: int, column: str, found: str, expected: str) -> None:
        self.file, self.row, self.column, self.found, self.expected = file, row, column, found, expected
        where = f"row {row}, {column}" if column else f"row {row}" if row else "(file)"
        super().__init__(" ".join(f"{file}: {where}: found {found}; expected {expected}".split()))


class GaugeError(BicentraError, OSError):
    """A gauge that cannot be used; the message says what is wrong and what to do."""
