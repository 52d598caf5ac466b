"""Enlarger: the negative projected on the paper."""
