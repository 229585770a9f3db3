"""Run from anywhere: its package and its data stand beside it."""
import os
import sys

sys.path.insert(0, os.path.join(os.path.dirname(__file__), ".."))

from ingest import stations  # noqa: E402

with open(os.path.join(os.path.dirname(__file__), "backfill.csv")) as file:
    print(stations.parse(file.read()))
