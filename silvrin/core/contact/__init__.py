"""Negatives for contact printing: silver contact paper, iron and printing-out processes."""
