"""Questions about springs under load."""
