npm run --silent build
npm run --silent start | grep "north 8"
node "$(node -p 'require("./package.json").bin.ingest')" | grep "north 8"
node -e 'if (require("./").level(1) !== 2) process.exit(1)'
node "$(find dist -name level.test.js)"
npm run --silent bundle
node out/cli.js | grep "north 8"
