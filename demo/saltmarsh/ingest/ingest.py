#!/usr/bin/env python3
"""Takes in a day's readings and tells how the estuary stands."""
import importlib
import json
import os

import gauges
import places, tables as tide_tables
from readings import (
    load,
    newest,  # of each station
)
import report

FORMATS = ("plain", "page")


def format_named(name):
    """Formats are modules that are looked up by their names."""
    return importlib.import_module("formats." + name)


def icon_of(station):
    path = os.path.join(places.ICONS, station["icon"])
    with open(path, "rb") as picture:
        return len(picture.read())


def main():
    with open(places.STATIONS) as text:
        stations = json.load(text)["stations"]
    levels = newest(load())
    for name in FORMATS:
        print(format_named(name).title(report.heading()))
    for station in stations:
        level = gauges.corrected(levels[station["name"]], station["zero"])
        high = tide_tables.highest(station["name"])
        print(f"{station['name']:<10} {level:5.2f} m of {high:5.2f} m, icon of {icon_of(station)} bytes")
    print(report.charts())


if __name__ == "__main__":
    main()
