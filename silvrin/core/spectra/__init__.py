"""Spectra: wavelength grid, lights, recovered reflectances, the chromaticity table."""
