"""Paper: papers, grades and their curves."""
