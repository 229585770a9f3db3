"""The head of the report, and the charts that belong to it."""
import json

import places


def heading():
    return "Saltmarsh tide network"


def charts():
    with open(places.HERE / "atlas" / "atlas.json") as text:
        sheets = json.load(text)["sheets"]
    return ", ".join(f"{sheet['title']} ({(places.HERE / sheet['image']).stat().st_size} bytes)" for sheet in sheets)
