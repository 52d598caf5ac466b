"""What the command line does beside serving, a module a kind."""
