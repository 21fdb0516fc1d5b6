"""A simulated camera above a table: what it sees while somebody lays page after page there."""
