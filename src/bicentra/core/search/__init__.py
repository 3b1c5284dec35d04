"""Search through every set of parts: which rotor, caliper, clock, plate behind the rotor and side go together.

``core.search.run.search`` walks rotors × calipers × plates × sides. Findings that neither turn nor depend on the
caliper are asked once a rotor, those that do not turn once a pair; what is left is swept over all clock angles by
``sweep.sweep_set``, cheap questions first, an angle that one finding stops not asked again. The sweeps are the very
functions of the single-job path; a flat plate's own findings are answered in closed form while nothing is cut out
of it; else, and for every other kind, the bracket is made. ``tests/core/search/test_search.py`` holds every verdict
against ``single_path`` in eight variants. ``score`` is the weighted sum of nine criteria. A kind made again at every
angle (``search.angle_by_angle``) is looked at once; if that does not stop it whatever the angle, what the caliper alone
says, what the kind can nowhere better (``Family.at_best``), what rides with the caliper (``Family.riding``) and what
metal is surely there (``Family.sure``) close angles without making it, and the rest is best first by a bound of the
score. ``study.desks.search`` builds rotors out of rings and hats, filters and keeps the harvest; it is a generator,
so progress and cancel are free.

``core.search.planner`` is A* over really solved jobs: a state is a job, a step one remedy of a finding that still
fails, the price metal cut, parts made and bought, steps, side effects, findings turned to a caution.
``app.lineup.planner`` previews a plan by drawing its solution; the job is not touched.
"""
