"""Watch."""
