"""Toner: the silver of the finished print changes colour."""
