"""The cover sheet: the vehicle, who works on it, what is open at each corner."""
