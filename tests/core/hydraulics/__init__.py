"""Tests of the hydraulics room."""
