"""Twenty random sets of 200 parts in 57 lengths from four stocks: cost, bound and time of the cutting plan.

Run as `python -m bench.cuts [FIRST [LAST]]`; a set is the same each time.
"""

from __future__ import annotations

import sys
import time

import numpy as np

from hazel_lantern.core.workshop.cutting import Stock, exact, first_fit

STOCKS = [Stock(6.0, 31.5), Stock(3.0, 17.9), Stock(2.5, 15.2), Stock(1.0, 7.4)]
LENGTHS, PARTS, KERF = 57, 200, 0.0022


def parts_of(seed: int) -> list[tuple[float, int]]:
    """One set: lengths [m] with how many of each."""
    rng = np.random.default_rng(seed)
    lengths = np.unique(np.round(rng.uniform(0.12, 2.4, LENGTHS), 3))
    counts = rng.multinomial(PARTS - len(lengths), np.ones(len(lengths)) / len(lengths)) + 1
    return [(float(length), int(count)) for length, count in zip(lengths, counts, strict=True)]


def main() -> None:
    numbers = [int(word) for word in sys.argv[1:3]] or [0, 19]
    print("set  first fit   found    bound    over   seconds")
    for seed in range(numbers[0], numbers[-1] + 1):
        parts = parts_of(seed)
        quick, start = first_fit(parts, STOCKS, KERF), time.perf_counter()
        plan = exact(parts, STOCKS, KERF)
        took = time.perf_counter() - start
        over = plan.cost / plan.bound - 1
        print(f"{seed:3d}  {quick.cost:9.2f} {plan.cost:8.2f} {plan.bound:8.2f}  {over:6.2%}  {took:7.1f}")


if __name__ == "__main__":
    main()
