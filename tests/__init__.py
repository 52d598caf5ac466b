"""The tests of Silvrin. None is timed: how fast things are stands in `silvrin bench`."""

from hypothesis import settings

settings.register_profile("untimed", deadline=None)
settings.load_profile("untimed")
