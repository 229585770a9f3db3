def title(text):
    return f"<h1>{text}</h1>"
