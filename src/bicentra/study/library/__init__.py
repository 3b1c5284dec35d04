"""Parts that are kept and looked up, and tables of parts read in.

``parts.library.Part`` wraps a rotor or caliper with source, price and the quality of each dimension;
``formats.part_files`` reads it by the same rules as a job, ``study.library.library`` loads the shipped folder (made by
``scripts/make_library.py``) and the user's own. A guessed dimension travels into the job as ``rotor.guessed``;
``certainty.doubts`` moves each guessed number a little and holds whatever moves with it down to a caution.

Tables of parts: ``formats.part_files`` (columns with units, points as ``x/y;x/y``), ``study.library.tables`` (remembered
columns, new / same / differs), ``app.parts.table_dialog`` and ``cli.parts`` on top. "The same part" means the same
dimensions to a ten-thousandth, whatever its name.
"""
