"""Each part as a dimensioned drawing of its own: what is measured stands where it is measured, what is missing as a blank."""
