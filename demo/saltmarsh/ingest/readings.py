"""The readings of a day."""
import csv

from places import HERE


def load():
    with open(HERE / "tides" / "readings.csv", newline="") as text:
        return list(csv.DictReader(text))


def newest(rows):
    return {row["station"]: float(row["level"]) for row in rows}
