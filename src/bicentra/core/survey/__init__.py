"""From readings to the hub and the lugs of this corner, with uncertainty.

1. ``survey.network`` - each reading is one equation; unknown are x, y of the points, angle and offset of the edges,
   and the diameters, which are readings too. The axle is the origin and has no column.
2. ``survey.start`` - trilateration from the axle outward. Where two circles leave two places, both ways are followed;
   ``survey.start`` looks for twins afterwards. A twin that no reading, stated side, telling name (upper, lower) or
   job lug settles is reported, never chosen.
3. ``survey.adjust`` - least squares (SciPy's Levenberg-Marquardt with a weak pull to the start, so that loose points
   stay put), then everything else from one SVD: covariance = gain·gainᵀ, redundancy, correlation of residuals, what
   is loose and which way. ``gain`` has one column a reading in units of its own standard uncertainty; that is what
   lets a single reading be followed to a single finding. A blunder is named by the largest normalised residual;
   readings whose residuals are correlated above 0.98 cannot be distinguished and are named together. ``detectable`` is
   the size that is noticed with 80 % *and* told from its neighbours at twice the size.
4. ``survey.advice`` - every reading that could still be taken is rated by what it does to covariance and redundancy,
   before it is taken.
5. ``survey.faces``, ``runout``, ``recipes`` - planes, harmonics and index places, sums of readings on donor parts.
   ``survey.corner`` holds it all.
6. ``survey.use`` - the edits that take a survey over. A number of the job *stands on the survey* while it equals the
   survey's own to 0.006 mm; typed over, it keeps at least the survey's error, and their difference with it; only
   what ``Job.exact`` names counts as exact. What the simulated gauge played carries its name in ``by`` and is taken
   over into a ``Job.practice`` only.
7. ``uncertainty.propagate`` - small differences through ``solve`` with plate, shims and bolts held as chosen
   (``frozen_choices``), times the shares of the readings. ``uncertainty.assess`` ranks the survey's own findings in;
   ``uncertainty.doubts`` adds chance and statement and turns "met by luck" into a caution. Play in the bolt holes
   (``uncertainty.doubts``) is a band beside, never part of the uncertainty.

``Study.solution`` gives the plain solution at once and the assessed one as soon as ``app.workers`` (a thread, waiting
while anything is pulled) hands it over; until then ``uncertainty.assess`` gives it the doubts of a moment ago
(decision 0006). SciPy is imported inside functions, on first use. ``study.desks.survey`` is the bench without a
screen: what is asked, what becomes of a value, who and when. ``study.gauges.gauge`` reads lines in a thread and hands
on events; ``gauges.simulated`` is a pseudo-terminal or a local port talked to by the same code.
"""
