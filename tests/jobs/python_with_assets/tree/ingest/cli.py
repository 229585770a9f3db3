import os

from ingest import stations
from ingest.charts import draw


def main():
    here = os.path.dirname(__file__)
    with open(os.path.join(here, "data", "stations.csv")) as file:
        print(stations.parse(file.read()), draw.icon())


if __name__ == "__main__":
    main()
