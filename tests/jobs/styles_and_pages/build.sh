npm run --silent styles
python3 - <<'P'
import html.parser, os, re, sys
bad = 0
def need(source, text):
    global bad
    path = text.split("#")[0].split("?")[0]
    if path and "://" not in path and not os.path.isfile(os.path.join(os.path.dirname(source), path)):
        print(source, text, "leads nowhere")
        bad = 1
class Page(html.parser.HTMLParser):
    def handle_starttag(self, tag, attributes):
        for name, value in attributes:
            if name in ("href", "src"):
                need(self.path, value)
            if name == "srcset":
                for each in value.split(","):
                    need(self.path, each.split()[0])
for folder, _, files in os.walk("."):
    for name in files:
        path = os.path.join(folder, name)
        if "node_modules" in path:
            continue
        if name.endswith(".html"):
            page = Page()
            page.path = path
            page.feed(open(path).read())
        if name.endswith(".css"):
            for text in re.findall(r'url\("?([^")]+)', open(path).read()):
                need(path, text)
sys.exit(bad)
P
