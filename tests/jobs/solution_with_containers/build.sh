xbuild /nologo /verbosity:quiet /p:NoCompilerStandardLib=false Saltmarsh.sln >log || { cat log; exit 1; }
mono "$(find . -name Saltmarsh.Office.exe -path '*bin*' | head -1)" | grep "3 members, dues 36"
rm -rf $(find . -name bin -o -name obj)
docker-compose -f docker-compose.yml config >config
# Each file that the composition names, with the context it names, and what it mounts.
python3 - <<'P' >builds
import re
text = open("docker-compose.yml").read()
for context, file in re.findall(r"context: (\S+)\s+dockerfile: (\S+)", text):
    print(context, context + "/" + file)
P
while read -r context file; do python3 "$STANDINS/container.py" "$context" "$file"; done <builds
for folder in $(sed -n 's/^ *- \(\.[^:]*\):.*/\1/p' docker-compose.yml) $(sed -n 's/^ *env_file: //p' docker-compose.yml); do
  test -e "$folder"
done
