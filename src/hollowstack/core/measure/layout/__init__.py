"""Where a page lies in its image: edges, rims, folds, frames, borders."""
