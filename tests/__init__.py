"""What the numbers are checked against.

``tests/validation`` holds published values (all from memory, and marked so): threads, units, the GUM's straight line
(H.3), Baarda's δ₀, chi-square points. Second ways to a result stand beside the code they test: Monte Carlo for
covariance and propagation, NumPy's FFT for harmonics, hand-worked networks, brute force for advice.
``tests/regression`` freezes our own output.
"""
