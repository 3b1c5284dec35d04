"""``python -m bicentra``."""

import sys

from bicentra.cli import main

if __name__ == "__main__":
    sys.exit(main())
