"""The web application: loopback only, JSON and one live socket."""
