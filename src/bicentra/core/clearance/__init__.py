"""Every pair that can meet: over the clock angle, a turn of the wheel, float, removal, play, heat.

The wheel turns and the caliper stands, so wheel room is a question in the (z, r) half plane: ``clearance.wheel_room``
sweeps the caliper's traced section by its width (a point at height u and half width w lies between r = u and √(u² +
w²)), with extra points at every corner of the traced face. The same shape is printed as the caliper card. Without a
trace the wheel's inside is nominal and the finding a caution at best.
"""
