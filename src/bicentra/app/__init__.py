"""The window: what is shown and asked; everything it knows comes from the study.

The Qt binding puts an import function of its own in the place of Python's, which reads the source of every module that is imported
later, ours and all libraries', for switches that nobody here uses. That took a tenth of the start; Python's own is put back.
"""

import builtins

_plain_import = builtins.__import__

import PySide6.QtCore  # noqa: E402, F401 - first, so that what it changes can be put back

builtins.__import__ = _plain_import
