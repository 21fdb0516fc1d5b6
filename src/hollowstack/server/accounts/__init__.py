"""Who may do what: people and their roles, tokens for scripts, the record of what was allowed and to whom."""
