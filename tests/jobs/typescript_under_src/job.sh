# All sources go below src/: outputs stay where others look for them, or all that names them follows.
builds
clean
does move index.ts cli.ts lib globals.d.ts src/
builds "sources in src/"
has package.json "esbuild src/cli.ts"
does move src/lib/level.test.ts src/tests/
builds "tests in a folder"
does move src/lib/stations.ts src/lib/stations/stations.ts --index
builds "a module made a folder, with an index"
has src/lib/stations/index.ts "from './stations'"
has src/cli.ts "from './lib/stations'"
clean
does carve src/lib
builds "a package of the library"
has src/lib/package.json '"name": "saltmarsh-ingest-lib"'
clean
does carve --fold src/lib
builds "folded back"
does undo
does undo
does undo
does undo
taken_back
