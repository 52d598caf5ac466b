"""The library of a user: SQLite for what they did, files for what they took."""
