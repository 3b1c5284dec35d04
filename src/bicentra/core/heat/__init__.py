"""Heat: energy of a stop, temperatures of a train of stops, what leaves its range."""
