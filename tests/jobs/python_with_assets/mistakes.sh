# A module went by hand.
mkdir ingest/core
touch ingest/core/__init__.py
mv ingest/stations.py ingest/core/
breaks
finds lost-module ingest/cli.py
finds lost-module tests/test_stations.py
does catch-up
builds
clean

# Its data went by hand.
as_before
mkdir ingest/assets
mv ingest/data ingest/assets/
breaks
finds empty-pattern pyproject.toml
does catch-up
builds
clean
