"""Neutral drawings: made once from the solution, rendered by the screen, PDF, SVG and DXF alike.

``core.drawing`` makes neutral records (shapes with tag and ink, dimensions, notes, handles). ``layout.lay_out`` places
labels so that none overlaps, for any back end; with ``margins`` texts stand clear of what is drawn
(``drawing.layout``), strictly at first (no leader through a text or across another), then wherever there is room;
``before`` keeps them where they stood, which a pull asks for: it is calmer and as cheap as no margins. Tags are the
words findings use, so lighting a finding's features is a comparison of strings. A left corner is drawn in the same
frame and mirrored at the end.

``app.drawing.view`` keeps what stands still in a picture while something is pulled (the head of the shape list that
has not changed), which is why drawings put first what does not turn with the caliper. The window never waits: clock
search, papers and recovery copies run in ``app.workers``; a task keeps itself alive until its last signal is
delivered in the interface thread.

What papers say of themselves is two records that are handed to every maker: ``imprint.CutMark`` (NOT TO CUT, TRIAL
ONLY, or nothing, with reasons; worked out from the findings by ``cut_mark``, for papers of both corners by
``solids.both_mark``) and ``imprint.Imprint`` (date, names, revision, sheet), made in ``study.papers.writing`` so that
neither core nor formats look at a clock (``SOURCE_DATE_EPOCH`` sets the day). ``drawing.imprint`` compares every size
of the made parts with what ``issued`` kept of the last paper. ``drawing.plate_sheet`` turns a part so that two of its holes
lie on the X axis: the worker makes the views of the turned solid, the hole table has both systems. Sizes on a paper
are written by one ``LengthFormat``; a DXF is drawn in mm and made smaller at the end where the job is read in inches.

A relief sheet asks the corner as it will be once all is cut (``drawing.relief_sheet``), so that no clash it mends forbids
it. What nobody chose is printed as *assumed* (``materials.ASSUMED``, ``Hole.assumed``).
``tests/formats/test_read_back.py`` reads every written geometry with readers of its own.

Part sheets. ``drawing.part_sheets`` draws each part by itself. ``Draft.size`` gives a placeholder sizes where none is
known; what stands on one is dotted, and ``Draft`` never writes it out. Every dimension carries the key path it edits
as its tag, so that the field in hand lights it.
"""
