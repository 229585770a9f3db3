tsc -p .
npm run --silent build
for test in $(find src -name '*.test.ts'); do
  esbuild "$test" --bundle --platform=node --outfile=out/test.js --loader:.svg=dataurl --log-level=error
  node out/test.js
done
