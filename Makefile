# Two commands: `make demo` and `make test`. Everything they need they set up.

.PHONY: demo serve test check bench types wheel scenes

demo:
	@scripts/set-up run
	@exec .venv/bin/silvrin demo

serve:
	@scripts/set-up run
	@exec .venv/bin/silvrin serve

test:
	@scripts/set-up test
	@scripts/check
	@.venv/bin/python -W error::SyntaxWarning -m unittest discover -t . -s tests

check:
	@scripts/set-up test
	@scripts/check

bench:
	@scripts/set-up test
	@.venv/bin/silvrin bench

# The API document, and the interface's types made from it
types:
	@.venv/bin/python -m silvrin.web.document > docs/openapi.json
	@cd frontend && npm run --silent types

wheel:
	@scripts/set-up test
	@.venv/bin/python -m build --wheel
	@.venv/bin/python -m build --wheel --outdir dist packaging/demo

# The demo's captures anew, from the scenes themselves: hours, and Debian's libllvm19 (docs/demo.md)
scenes:
	@scripts/set-up test
	@[ -x .render/bin/python ] || python3 -m venv .render
	@.render/bin/python -m pip install --quiet -r demo/scenes/requirements.txt
	@.render/bin/python -m demo.scenes .scenes
	@.venv/bin/python -m demo.captures .scenes
	@.venv/bin/python -m demo.accuracy
