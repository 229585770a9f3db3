"""Where things are."""
import os
from pathlib import Path

HERE = Path(__file__).resolve().parent
ICONS = os.path.join(os.path.dirname(os.path.abspath(__file__)), "icons")
TIDES = str(HERE / "tides")
STATIONS = HERE / "stations.json"
