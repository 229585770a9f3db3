def title(text):
    return text + "\n" + "=" * len(text)
