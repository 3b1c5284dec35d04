"""Kinds of bracket: each a small file that solves its geometry from the line-up and says whether it suits the job."""
