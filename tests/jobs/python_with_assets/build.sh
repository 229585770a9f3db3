export PYTHONDONTWRITEBYTECODE=1
sed -n 's/^    python3 -m/python3 -m/p; s/^    python3 \(tools\|scripts\)/python3 \1/p' README.md >commands
test "$(wc -l <commands)" = 2
PYTHONPATH=$(test -d src && echo src || echo .) sh -eu commands
PYTHONPATH=$(test -d src && echo src || echo .) python3 -m unittest discover -s tests 2>&1 | grep "^OK"
# What is packaged holds the data.
python3 - <<'P'
import glob, os, tomllib
with open("pyproject.toml", "rb") as file:
    settings = tomllib.load(file)
tools = settings["tool"]["setuptools"]
root = tools.get("package-dir", {}).get("", ".")
for package in tools["packages"]:
    assert os.path.isfile(os.path.join(root, package.replace(".", "/"), "__init__.py")), package
for package, patterns in tools["package-data"].items():
    for pattern in patterns:
        assert glob.glob(os.path.join(root, package.replace(".", "/"), pattern)), (package, pattern)
module, _, name = settings["project"]["scripts"]["ingest"].partition(":")
assert os.path.isfile(os.path.join(root, module.replace(".", "/") + ".py")), module
P
