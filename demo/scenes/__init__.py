"""The pottery's scenes, rendered by wavelength: `python -m demo.scenes`.

Needs the renderer in an environment of its own: see requirements.txt and docs/demo.md. The
captures made from the scenes are committed; neither `make demo` nor `make test` comes here.
"""
