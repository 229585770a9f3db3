python3 - <<'P'
import os, re, subprocess, sys
settings = dict(re.findall(r'^(\w+) = "([^"]*)"', open("config.rb").read(), re.M))
bad = False
for folder, _, files in os.walk(settings["sass_dir"]):
    for name in files:
        text = open(os.path.join(folder, name)).read()
        for helper, path in re.findall(r'(image|font)-url\("([^"]+)"\)', text):
            place = os.path.join(settings[{"image": "images_dir", "font": "fonts_dir"}[helper]], path)
            if not os.path.isfile(place):
                print(name, path, "is not at", place)
                bad = True
subprocess.run(["sass", "--no-source-map", "--quiet", settings["sass_dir"] + ":" + settings["css_dir"]], check=True)
page = open("public/index.html").read()
for path in re.findall(r'href="([^"]+)"', page):
    bad |= not os.path.isfile(os.path.join("public", path))
sys.exit(bad)
P
