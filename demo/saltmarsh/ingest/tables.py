"""Tide tables: the highest and lowest levels that are foreseen."""
import csv
import os

import places

LIMIT = 9.0


def highest(station):
    with open(os.path.join(places.TIDES, "high.csv"), newline="") as text:
        return max(float(row["level"]) for row in csv.DictReader(text) if row["station"] == station)
