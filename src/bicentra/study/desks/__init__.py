"""One bench each, without Qt: what is asked and what becomes of a value."""
