def parse(text):
    return [line.split(",")[0] for line in text.split()]
