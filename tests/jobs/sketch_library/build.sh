# As the sketch tool does it: what stands beside a sketch and below its src, with the src of every library as a root.
roots=
for library in libraries/*/src; do roots="$roots -I$library"; done
for folder in $(find . -name '*.ino' -exec dirname {} \;); do
  test -f "$folder/$(basename "$folder").ino"
  for source in "$folder"/*.ino "$folder"/*.cpp $(find "$folder/src" -name '*.cpp' 2>/dev/null); do
    [ ! -f "$source" ] || g++ -x c++ -fsyntax-only $roots "$source"
  done
done
for source in $(find libraries -name '*.cpp'); do g++ -fsyntax-only $roots "$source"; done
