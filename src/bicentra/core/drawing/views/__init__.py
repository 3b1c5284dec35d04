"""Drawings that are looked at and worked on: each bench has its own."""
