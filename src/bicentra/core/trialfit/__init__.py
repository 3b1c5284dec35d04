"""Trial fit: from gaps read at the car to where the caliper sits, and to the shims that put it right.

``core.trialfit.pose`` solves where a caliper sits from whatever was read (weighted least squares in offset, slope
along the slot, slope inwards, slot less rotor; what the rows leave free is unknown). ``shim_station`` says which
way shims act at a place, a bar on two supports; ``plan`` goes through all stacks of the fewest pieces (``stacks``, as
arrays), then through those that are surely within limits; ``bolts`` says what each bolt is left with; ``alternatives``,
``move_diagnosis`` (Bayes over explanations), ``log`` (states and locks: short marks of what a lock rests on, and the
list of what a lock needs). ``contradictions`` finds readings that cannot all be right: while one stands nothing is
advised. ``set_up`` keeps which readings are from before a change (``Trial.read_before``); ``pose`` leaves them out.
``advice`` is the one answer to what comes next, for the bench and for the practice corner, with what was looked at
(``inspections``, ``Trial.checked``). ``fit.trial_fit`` puts it together for one trial. Trials lie in the corner
(``Job.trials``); nothing else of a solve reads them.

``core.practice`` hides faults behind a seed (``truth``: a rigid bar on the shims of lugs and ears), answers readings
and inspections for minutes (``corner``: job in, job out), and plays (``players``): the reference player is the par and
does what ``advice`` says first, the follower nothing but that, the naive one halves the difference. The run is a
record of the job (``practice_run``, every step in order); what is done for good is not undone
(``Study.keep_for_good``). The solver never imports this package.
"""
