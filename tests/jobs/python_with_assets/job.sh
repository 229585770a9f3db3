# Data and pictures under one roof inside the package, modules regrouped, the program with its data elsewhere.
builds
clean
does move ingest/data ingest/assets/data
does move ingest/charts/icons ingest/charts/assets/icons
builds "assets below one name"
has pyproject.toml '"assets/icons/*.svg"'
does move ingest/stations.py ingest/core/stations.py
builds "a module in a package of its own"
has tests/test_stations.py "from ingest.core import stations"
test -f ingest/core/__init__.py
does move tools/backfill.py tools/backfill.csv scripts/ --mentions
builds "the program and its data"
has README.md "python3 scripts/backfill.py"
does move ingest/charts ingest/plots
builds "a package renamed"
has pyproject.toml '"ingest.plots"'
clean
does undo
does undo
does undo
does undo
taken_back
