"""The sentences of the core, as patterns with %1, %2 ... where it puts a value: string literals that are joined by + or
filled by format."""
import pathlib
import re

TOKEN = re.compile(r'''//[^\n]*|/\*.*?\*/|R"\((?P<raw>.*?)\)"|"(?P<text>(?:[^"\\\n]|\\.)*)"|'(?:[^'\\]|\\.)'|[A-Za-z_][\w:]*|\d[\w.']*|\S''', re.S)
ESCAPES = {"n": "\n", "t": "\t"}
# Written into files or shown to nobody: not the window's.
ELSEWHERE = ("/simulate/", "/report/")
WORDS = re.compile(r"[a-z]{2,} [a-z({]|[a-z]{2,} \{|\} [a-z]")


def unescaped(text):
    return re.sub(r"\\(u[0-9a-fA-F]{4}|.)",
                  lambda m: chr(int(m[1][1:], 16)) if m[1][0] == "u" and len(m[1]) == 5 else ESCAPES.get(m[1], m[1]), text)


def tokens(source):
    """(is a literal, text) one after the other; std::string("x") counts as "x"."""
    found = []
    for m in TOKEN.finditer(source):
        if m[0].startswith(("//", "/*")):
            continue
        if m["raw"] is not None:
            found.append((True, m["raw"]))
        elif m["text"] is not None:
            found.append((True, unescaped(m["text"])))
        else:
            found.append((False, m[0]))
    plain = []
    i = 0
    while i < len(found):
        if found[i][1] == "std::string" and found[i + 1:i + 2] == [(False, "(")] and i + 2 < len(found) and found[i + 2][0]:
            end = i + 2
            while found[end][0]:
                end += 1
            if found[end] == (False, ")"):
                plain += found[i + 2:end]
                i = end + 1
                continue
        plain.append(found[i])
        i += 1
    return plain


def joined(plain, i):
    """The literal at i with all that is added to it, {} for a value, and where that ends."""
    text = ""

    def literals(i):
        nonlocal text
        while i < len(plain) and plain[i][0]:
            text += plain[i][1]
            i += 1
        return i

    i = literals(i)
    while plain[i:i + 1] == [(False, "+")]:
        i += 1
        if i < len(plain) and plain[i][0]:
            i = literals(i)
            continue
        depth = 0
        while i < len(plain):
            token = plain[i][1] if not plain[i][0] else ""
            if token and token in "([{":
                depth += 1
            elif token and token in ")]}":
                if depth == 0:
                    break
                depth -= 1
            elif depth == 0 and token and token in "+;,?:":
                break
            i += 1
        text += "{}"
    return text, i


def plain_errors(plain):
    """Of a source of the window, what stands in an Error behind its code."""
    for i, token in enumerate(plain):
        if not token[1].startswith("ErrorCode::") or token[0] or plain[i + 1] != (False, ","):
            continue
        depth = 0
        for inside in plain[i + 2:]:
            word = "" if inside[0] else inside[1]
            depth += word in ("(", "[", "{")
            depth -= word in (")", "]", "}") and bool(word)
            if depth < 0 or word == ";":
                break
            yield inside
        yield (False, ";")


def sentences(root):
    """Pattern -> where it stands. Of the window only what it says as the core does, in an Error."""
    found = {}
    core, window = (sorted(pathlib.Path(root, part).rglob("*")) for part in ("src/core", "src/app"))
    for path in core + window:
        if path.suffix not in (".cpp", ".h") or any(part in str(path) for part in ELSEWHERE):
            continue
        plain = tokens(path.read_text(encoding="utf-8"))
        if path in window:
            plain = list(plain_errors(plain))
        i = 0
        while i < len(plain):
            if not plain[i][0]:
                i += 1
                continue
            before = i > 0 and plain[i - 1] == (False, "+")
            text, i = joined(plain, i)
            text = re.sub(r"(\{[^{}]*\})+", "{}", ("{}" if before else "") + text)
            # Markup and file headers are no sentences.
            if not WORDS.search(text) or "<" in text or "property " in text:
                continue
            count = 0

            def place(_):
                nonlocal count
                count += 1
                return f"%{count}"

            found.setdefault(re.sub(r"\{\}", place, text), str(path.relative_to(root)))
    return found
