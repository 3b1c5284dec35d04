"""The computation: no files, no clock, no screen. Lengths in mm, angles in degrees at the edges and radians inside.

``parts.corners.job_of(vehicle, name)`` makes the record ``solve`` takes: what the corner itself says, over what its
axle says for all its corners, over what the other corner of that axle was measured to be, mirrored. ``Job.borrowed``
lists what came from over there; ``solution.as_borrowed`` marks every finding that rests on it, and ``borrowed`` says
the one thing to do. ``with_job`` is the way back: an edit goes where its value came from. ``Study`` holds the vehicle;
its undo is the vehicle's, and ``study.job`` is ``job_of`` of the corner that is shown.

``solve(job)`` takes about 3 ms:

1. ``lineup.solve.line_up`` - where everything lies for a centred caliper. Frame and symbols are in its docstring.
2. ``bracket.families.table.make`` - the bracket of the kind the job takes: ``Family`` says by its traits what the kind
   is, ``Family.make`` gives a ``Bracket``: stack-up, bolts, made parts (``MadePart``: outline, bores, pockets, bends,
   edge bores, cutouts), its own questions, its numbers. The flat plate is one of them.
3. ``bracket.assembly.place`` - line-up, bracket, bolts and holes in one record that everything after it takes;
   ``bracket.metal`` is the bracket as prisms between heights, at one clock angle or at many.
4. ``bracket_evaluation.judge_bracket`` - what every bracket is asked (metal, bolts, heads, clearances) and what its
   kind asks of itself.
5. ``solution.solve`` - those, the line-up's and the clearances of caliper and knuckle, in the order of the registry;
   remedies carry the edits that carry them out.

One registry. ``base.registry.KINDS`` declares each finding once: id, title, group, place in the list, the limit it is
judged by, and traits (turns with the clock angle, needs the bracket's shape, is the worst of many …). Lists of ids
are comprehensions over it; a test fails on one that is kept by hand.

Unknown numbers. A missing measurement is ``None`` in the job and ``nan`` in the arithmetic, so it runs through every
sum. Only ``finding.judge`` gives verdicts, and it turns ``nan`` into *unknown*. Never use the built-in ``min``/``max`` on
values that may be unknown: they pass over ``nan`` or not, depending on the order; ``base.numbers`` has ``apart``,
``ordered``, ``smallest``. For distances there is one rule more (``geometry.ring``): infinity means that *no such pair
exists*, ``nan`` that it is *unknown*, and ``least_of`` keeps them apart: a body that is missing makes the least
unknown unless what is known already stops. What is not measured but bounded by something that is (the hub's barrel,
the hat's outside, stud heads) is a ring with ``sure=False``: it may clear a finding, never stop one.
``tests/core/test_taken_away.py`` takes every measurement away in turn.

What contradicts itself. ``core.consistency`` has a table of conflicts for each record (caliper, rotor, hub, wheel,
lugs, bracket, axle, vehicle): two numbers that cannot both be so, with what of them to look at. Each is one line of
a finding (``caliper-sizes``, ``rotor-sizes`` …); a conflict is only told of numbers that are stated. ``parts.limits`` is
the one place that says what a job may set its limits to (``accepted``); what it may not is judged by the usual one
and stops (``limit-not-accepted``); what it changes is said in the finding, in the list and on papers
(``CutMark.limits``).

Remedies are carried out before they are offered. ``verified_remedies.Verifier`` puts each remedy's edits into the
job, solves it, and keeps the remedy only where its finding is better by it; new stops stand among its side effects,
and one that leaves new stops comes last. That takes a solve a remedy, so it is asked with the assessment, never
while something is pulled (``solve(verified=False)``).

Every pair that can meet stands in ``tests/core/clearance/pairs.py`` with the finding that owns it and over which motion (turn,
float, wear, play, heat, steering), or with the reason why nobody asks; a test fails on a pair without either. What
turns against what stands is ``clearance.turning``, in the (z, r) half plane of ``clearance.half_plane``; the caliper's
body is ``lineup.body``: prisms of its traced section, clipped by its traced face.

One path for one angle and for all. What depends on the clock angle is in ``clearance.clock_sweep`` and
``bracket.turned``, written for arrays of angles. The single solve calls it with one, ``search.clock`` and
``search.sweep`` with 1440, for the bracket that is taken: a kind whose outline is a hull of discs is swept as one
(``TurnedChart``), any other is made at every angle that the rest leaves open. ``search.clock`` asks the
same questions by turns while something is pulled. ``benchmarks/plain_search.py`` is a plain loop from the geometry
alone that the tests compare both with, and ``tests/core/bracket/test_one_kind_of_bracket.py`` holds every kind's ring
to its own single solve.

Exactness. Whatever stands is a ``geometry.prism.Prism``: an outline (or a round one's middle) between two heights, at
one clock angle or at n; plate, boss, bolt head, obstacle, slice of the caliper's body. ``prism_gap`` is how far two
of them are apart. What turns with the wheel is a ``Ring``; a prism tells the ring it just fits in. Where a prism
stands at a clock angle is asked of one ``geometry.frame.ClockFrame``. Outlines are lines and arcs
(``geometry.outline``, DXF bulges): areas, distances and outputs are exact. Shapely answers clearances to obstacles
and the search; plate polygons there lie round the true outline, so a gap is never overstated, and what is cut out
round the axle is only cut where the nearest point lies in it.

Asked when wanted. ``solve`` places everything and hands on its questions as steps (``base.lazy_findings``): a finding
is worked out when somebody first wants it, so a pull asks only what is drawn. An edit that is kept asks all at
once, and a fault of ours takes it back. Turns that cure a clash come with the assessment.

Memory. Everything is a pure function of frozen records, so an answer may be kept (``base.cache``): by identity of
what was given, or, for steps that do not turn with the caliper (``bracket.turned``), by every field of the job but
its clock angle. At one angle the body is asked of all that stands at once (``clock_sweep._room_here``) and swept once
for wheel, hat and hub (``half_plane``). ``tests/core/test_kept_answers.py`` holds what is kept to what is worked out
again, over random jobs and edits, to the last digit.

Two kinds of records, both frozen ``msgspec.Struct``s, cheap to declare (the program starts sooner) and cheap to make.
What steps hand to each other is a ``base.records.Record``. Jobs and parts are ``parts.fields.Described``: each field
says what it means (``Meaning``: label, range, unit, help), which validation, schema and sheets read through
``fields.fields``. ``records.replace`` copies either.

What the first frame does not need is imported where it is used: survey, certainty, search, papers, part sheets,
dotted corners. Before the window is drawn there is no garbage collection (``app.main.run``); a sheet nobody has
opened is made a second and a half later, in a pause.

What is missing. ``core.inputs.required_inputs`` names the measurements the bracket's outline follows from, and fills a job
up with placeholder sizes (``core.inputs.placeholder_sizes``) for drawing alone: ``drawing.views.example``
show them dotted with a blank where each is taken; each blank stands on one of the two. ``core.inputs.missing`` finds by
trying which missing size serves which finding. No placeholder size ever reaches a finding, a paper or a file: ``solve``
is only given the job as it is.

Kept records. ``tests/regression/kept`` holds what the core says of a score of jobs, a few numbers a thing. They prove
nothing; they make sure that nothing changes unseen; ``any.*`` are jobs, vehicles, trials and surveys put together by
chance, and the range and refusals of every field (``tests/regression/others``). Where a change is meant, look at it,
then ``make records``.
"""
