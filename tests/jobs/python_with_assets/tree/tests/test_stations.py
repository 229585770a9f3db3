import unittest

from ingest import stations


class Stations(unittest.TestCase):
    def test_parse(self):
        self.assertEqual(stations.parse("north,12\n"), ["north"])
