"""No text of the window is missing from a catalogue, none is left over, and each keeps its places for values."""
import collections
import pathlib
import re
import subprocess
import sys
import tempfile
import xml.etree.ElementTree as ElementTree

import core_sentences

LUPDATE = "/usr/lib/qt6/bin/lupdate"


def messages(path):
    found = {}
    for message in ElementTree.parse(path).getroot().iter("message"):
        translation = message.find("translation")
        forms = [form.text or "" for form in translation.findall("numerusform")] or [translation.text or ""]
        found[message.find("source").text] = (message.get("numerus") == "yes", forms)
    return found


def missing_sentences(root, path, window):
    """What the core says: each sentence has a translation, none is left over, and no value is made up."""
    wanted = core_sentences.sentences(root)
    assert len(wanted) > 700, "the sentences of the core were not found"
    said = messages(path.with_name(path.name.replace("lostline_", "sentences_")))
    words = window | set(messages(path.with_name(path.name.replace("lostline_", "core_"))))
    values = lambda text: set(re.findall(r"%\d", text))
    return ([f"{where}: no translation of {text!r}" for text, where in wanted.items() if text not in said and text not in words] +
            [f"left over: {text!r}" for text in said if text not in wanted] +
            [f"{text!r} gains a value in {forms[0]!r}" for text, (_, forms) in said.items() if not values(forms[0]) <= values(text)])


def guide_faults(root, known):
    """The guide in another language: paragraph by paragraph the same, with the same pictures, keys and formulas."""
    paragraphs = lambda name: re.split(r"\n\s*\n", (root / "docs/guide" / name).read_text().strip())
    name = known["guide.md"][1][0]
    ours, theirs = paragraphs("guide.md"), paragraphs(name)
    faults = [] if len(ours) == len(theirs) else [f"{name} has {len(theirs)} paragraphs, guide.md {len(ours)}"]
    shape = lambda text: (re.findall(r"^#+", text), re.findall(r"\]\((.*?)\)", text), len(re.findall(r"\*\*.+?\*\*", text)))
    keys = {"Return": "Eingabe", "Shift": "Umschalt", "Del": "Entf", "Up": "Auf", "Down": "Ab", "Ctrl": "Strg"}
    for one, other in zip(ours, theirs):
        if shape(one) != shape(other):
            faults.append(f"{name}: {other[:50]!r} is not made like {one[:50]!r}")
        wanted = {"+".join(keys.get(key, key) for key in code.split("+")) for code in re.findall(r"`(.*?)`", one)}
        if wanted != {"+".join(keys.get(key, key) for key in code.split("+")) for code in re.findall(r"`(.*?)`", other)}:
            faults.append(f"{name}: other keys in {other[:50]!r} than in {one[:50]!r}")
    return faults


def main(root):
    root = pathlib.Path(root)
    with tempfile.TemporaryDirectory() as folder:
        extracted = pathlib.Path(folder) / "all.ts"
        subprocess.run([LUPDATE, "-silent", "-locations", "none", "-no-obsolete", "-recursive", str(root / "src/app"), "-ts",
                        str(extracted)], check=True, capture_output=True)
        sources = messages(extracted)
    assert len(sources) > 800, "the texts of the window were not found"
    faults = []
    catalogues = sorted((root / "src/app/resources/translations").glob("lostline_*.ts"))
    assert catalogues, "there is no catalogue"
    for path in catalogues:
        known = messages(path)
        faults += [f"{path.name}: missing: {s!r}" for s in sources if s not in known or not all(known[s][1])]
        faults += [f"{path.name}: left over: {s!r}" for s in known if s not in sources]
        places = lambda text: collections.Counter(re.findall(r"%(?:\d|n)", text))
        for source, (numerus, forms) in known.items():
            if len(forms) != (2 if numerus else 1):
                faults.append(f"{path.name}: {source!r} has {len(forms)} forms")
            faults += [f"{path.name}: {source!r} loses or gains a value in {form!r}" for form in forms
                       if places(form) != places(source)]
        faults += missing_sentences(root, path, set(known))
        faults += guide_faults(root, known)
    print("\n".join(faults) or f"{len(sources)} texts in {len(catalogues)} catalogue(s)")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
