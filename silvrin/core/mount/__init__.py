"""The Mount station: the finished thing, in millimetres."""
