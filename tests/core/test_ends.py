"""Ends of ranges hold eight of ten more, however few draws there are."""

import unittest

import numpy as np

from calveth.core.ends import ends_of


class Ends(unittest.TestCase):
    def test_eight_of_ten_more_lie_between(self) -> None:
        """Of 1 500 sets of draws of three shapes 80 ± 2 of 100: the k-th of n has k/(n + 1) below.

        The usual quantile of sixteen draws holds 71.
        """
        random = np.random.default_rng(5)
        for name, draw in (
            ("even", random.random),
            ("bell", random.standard_normal),
            ("leaning", random.standard_exponential),
        ):
            more = draw(20_000)
            for count in (9, 12, 16, 32, 64):
                sets = draw((1_500, count))
                low, high = ends_of(sets, axis=1)
                rank = np.sort(more)
                inside = np.searchsorted(rank, high) - np.searchsorted(rank, low)
                with self.subTest(shape=name, count=count):
                    self.assertAlmostEqual(float(inside.mean()) / more.size, 0.8, delta=0.02)

    def test_few_draws_end_with_their_least_and_largest(self) -> None:
        np.testing.assert_array_equal(ends_of([3.0, 1.0, 2.0, 5.0, 4.0, 8.0]), [1.0, 8.0])

    def test_draws_without_an_answer_are_left_out(self) -> None:
        np.testing.assert_allclose(
            ends_of([np.nan, *map(float, range(1, 20)), np.nan]), [2.0, 18.0]
        )


if __name__ == "__main__":
    unittest.main()
