"""Finds the weights of ``core.read.doubts`` anew from drawn pages, other than those of accuracy: takes an hour."""

import argparse
import os
from concurrent.futures import ProcessPoolExecutor

import numpy as np
import numpy.typing as npt

from benchmarks.accuracy.reading_pages import read_one, tasks
from hollowstack.core.read.doubts import features

Values = npt.NDArray[np.float64]


def weights(rows: Values, wrong: Values, penalty: float = 1.0) -> Values:
    """Of a logistic regression with a quadratic penalty, by Newton's method (C. M. Bishop, Pattern Recognition, 4.3.3)."""
    with_one = np.column_stack([np.ones(len(rows)), rows])
    found = np.zeros(with_one.shape[1])
    for _ in range(60):
        chance = 1 / (1 + np.exp(-with_one @ found))
        slope = with_one.T @ (chance - wrong) + penalty * found
        curve = with_one.T @ (with_one * (chance * (1 - chance) + 1e-9)[:, None]) + penalty * np.eye(len(found))
        step = np.linalg.solve(curve, slope)
        found -= step
        if np.abs(step).max() < 1e-6:
            break
    return found


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seed", type=int, default=7000)
    parser.add_argument("--pages", type=int, default=260)
    given = parser.parse_args()
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        pages = [page for page in pool.map(read_one, tasks(given.seed, given.pages)) if page.words]
    rows = np.vstack([features([word for word, _ in page.words]) for page in pages])
    wrong = np.array([float(word.text != truth) for page in pages for word, truth in page.words])
    print(", ".join(f"{weight:.2f}" for weight in weights(rows, wrong)))


if __name__ == "__main__":
    main()
