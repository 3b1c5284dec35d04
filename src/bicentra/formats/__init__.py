"""Files in and out, one format a module. Heavy libraries are imported inside the call that needs them.

``formats.records`` reads and writes any of the frozen records: a key it does not know goes into the record's ``extra``
and is written back, a value that equals its default is left out, whatever the field. ``formats.job_json`` is the
vehicle file on top of it, ``formats.job_json`` the chain that brings an older version up one link at a time; the
older file is kept beside as ``NAME.v1.bicentra.json``. A new version is a new link and an old file in
``tests/data/old``. Field descriptions (``parts.fields``) drive validation, JSON Schema and panels alike.
``study.document.store.write_atomic`` writes every file: temporary file in the same folder, synced, renamed; only over
plain files. ``FileStamp`` remembers what a file was like when it was read: ``ChangedOnDiskError`` asks before another's
work is written over.

``study.document.recovery`` keeps one copy for each open job, under a lock (``flock``) that ends with its process: a
copy whose lock is held belongs to a living window and is offered to nobody. A copy goes only after a save that
holds its work, or when its owner gives it up.

Input is data. Every name and title is shown by ``app.widgets.plain``, as letters, never as markup; ``formats.csv_out``
takes formulas out of CSV, ``base.wording.printable`` control characters out of everything printed. ``parts.validate`` has
the longest text and list of every field. A paper gives the same bytes every time: ``formats.dxf`` settles
handles, dates and the order of classes. ``formats.pdf_pen`` lets one PDF be made at a time, because the PDF
library promises nothing for two threads; ``formats.typeface`` keeps its own for each thread.
"""
