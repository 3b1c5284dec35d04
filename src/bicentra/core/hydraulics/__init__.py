"""From the foot to the road: pressure, clamp, torque, travel, balance. The numbers behind the pedal, and what they rest
on.

``core.hydraulics`` works on the whole vehicle, not on a corner: ``ends`` (areas, radii, friction), ``chain`` (foot to
road; its inverse goes through straight pieces), ``balance`` (locking, where the rear leads, the knee that fixes it),
``compliance`` and ``travel`` (what gives way, stated or usual), ``travel``, ``stages`` (bite to hot and worn),
``before`` (levers), ``masters``, ``misconceptions`` (usual wrong sums), ``pedal`` (all of it with its findings).
``core.heat`` is a lumped ring over a train of stops, with the hat that follows it (``hat``), what gets warm behind it
(``heat_soak``) and what pads lose (``wear``). ``Study.edit_vehicle`` takes edits of what all corners share. The tests
hold the balance against a stop simulated in steps, and the ring against finite differences.

What nobody measured is named by ``missing``, in measuring order, and makes findings unknown; what may be guessed
(height by kind of vehicle, a drum's factor by its shoes) comes as ``guess``, one end of its spread, through
``chain_of``: ``pedal`` asks the worse ends too and holds what rests on a guess to a caution. ``misconceptions`` are
findings on repairs that are none, ``masters`` what has to be made again, ``missing`` a height from two weighings. Many
decelerations at once: ``Chain.feet_for``, ``roads``, ``VehicleBody.loads``; each is tested against its one-by-one twin:
what is straight in pieces is written once for one number and for many (``ends.Number``). ``heat.effects`` is what a set
of parts does to the vehicle, for the search. Numbers in the job's units go through ``LengthFormat`` (``force``,
``pressure``, ``heat``, …) and the kinds of ``base.quantities``; the inner units never change. On the bench a pull makes
a wished vehicle in the desk (``preview``, ``commit_preview``): drawings are made from it, the study is changed once,
when it is let go.
"""
