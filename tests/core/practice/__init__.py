"""Tests of the practice corner."""
