"""The page as a thing: its pixels, geometry, sizes, names and what may go wrong with it. Knows nothing else."""
