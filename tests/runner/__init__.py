"""The gate's own machinery: which tests there are, who runs which and in what order, and what came of it."""
