import unittest
from unittest import mock

import gauges


class Corrected(unittest.TestCase):
    def test_zero(self):
        self.assertAlmostEqual(gauges.corrected(3.2, 0.35), 2.85)

    def test_limit(self):
        with mock.patch("tables.LIMIT", 1.0):
            self.assertEqual(gauges.corrected(3.2, 0.35), 1.0)


if __name__ == "__main__":
    unittest.main()
