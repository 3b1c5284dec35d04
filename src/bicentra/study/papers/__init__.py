"""What is taken away: papers, files for a shop, solids from their worker."""
