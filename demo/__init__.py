"""The demo job: captures of a hill pottery, and the library they fill."""
