"""Team mode: who is asking, what is theirs, and what they did. Without METASPIRA_TEAM there is one person and
no account."""
