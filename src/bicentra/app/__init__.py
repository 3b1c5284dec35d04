"""The window: what is shown and asked; everything it knows comes from the study.

The Qt binding puts an import function of its own in the place of Python's, which reads the source of every module that
is imported later, ours and all libraries', for switches that nobody here uses. That took a tenth of the start; Python's
own is put back.

``app.window`` owns the study and hands changes on; ``header``, ``benches``, ``footer``, ``sheets`` and the benches
only show and ask. ``benches.BENCHES`` is the order of the work and of the bench bar;
``study.document.cover.bench_of`` says on which bench a finding is settled (by its room and the trait
``of_parts``). The start sheet is a bench that stands on no bar; with it in front, ``_furnished`` hides what needs a
job. A sheet lies over the benches (``sheets.turned``). Whatever takes longer than a frame runs in ``app.workers``:
other corners of the cover, recent jobs, papers, preview. ``single_instance`` is one local socket a file: who opens it
again rings there.

What is typed is never lost: ``widgets.typed`` finds every editable widget by walking the widget tree; whatever acts on
the job first takes what stands in them (``take_typing``), whatever leaves the job drops it (``drop_typing``). Enter
takes the value and goes on to the next field, which is brought into sight with its text selected.
"""

import builtins

_plain_import = builtins.__import__

import PySide6.QtCore  # noqa: E402, F401 - first, so that what it changes can be put back

builtins.__import__ = _plain_import
