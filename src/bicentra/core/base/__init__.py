"""Errors, findings, quantities, exact outlines: what every other room of the core stands on."""
