"""Tests of the trial fit room."""
