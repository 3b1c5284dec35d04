"""Numbers of one record that contradict each other, or that no such part can have: each said once, with its reason."""
