"""The adapter plate: its thickness and shims, its bolts, its outline, and the search over the clock.

A family is a file in ``bracket/families`` with its traits and one function, and a name in ``families.table``. Families
ask nothing that others ask too and import no judge; nothing outside the folder names one (both are tested): what
others need to know of a kind is a trait. ``options.propose`` makes every kind again, thickness and bolts chosen;
``evaluation.own_bracket`` is the job's own, as its file says. ``parking_adapter`` is the parking caliper's adapter, made
as well as the bracket and judged by the same judge; ``uncertainty.both_sides`` is the other corner's. A kind may have
nothing to make (``Bracket.shown`` without parts: straight on); what the lugs' bolts then hold, and are screwed into,
is ``Bracket.clamped``.

``data/examples`` has one whole job for each kind of job (``starting.EXAMPLES``). ``tests/gallery`` works their key
figures out by hand, takes each to its papers, and plants faults in them: one change, and the finding that owns it
speaks, with its kin alone. A new kind brings its example, a new finding its fault.

A paper is a row of ``study.papers.papers.PAPERS``: flag, menu and print entry come from it; ``makers`` has what makes
each, and what says at once that it does not apply. What has to go of a casting or a dust shield is worked out in
``clearance.relief_plan`` (from outline, heights, room) and drawn by ``relief``.

The plate's outline: discs round the holes' ends and round what is pulled out (``edges``), their hull, the hub's room
(``relief``), the waists. ``study.desks.shaping`` moves any of it by bisection between what stands and what is asked,
with the family's own findings as the judge.

Solids are made by the solid kernel in ``formats.solid_worker``, a process of its own: it loads the kernel once, makes
each order's file in a copy of itself (so the same order gives the same bytes) and waits 90 s for the next;
``study.papers.solids`` keeps it. Cancelling kills it, it ends with the program that asks, and nothing of the kernel
is ever imported there (a test looks). ``formats.hidden_lines`` gives the views of the workshop drawings. The picture
in space does not need it: ``core.drawing.views.solid_scene`` makes closed meshes from outlines, ``app.bracket.raster`` paints
them with a NumPy depth buffer, coarse while it is turned.
"""
