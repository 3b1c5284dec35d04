"""Parts that are kept and looked up, and tables of parts read in."""
