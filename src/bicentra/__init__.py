"""Bicentra: the measuring, arithmetic and drawing of a brake adapter, from a measured hub to a plate that can be cut."""

__version__ = "0.2.0"
