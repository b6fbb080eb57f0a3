"""Core modules include only what the table in docs/design/modules.md allows, and never the interface."""
import pathlib
import re
import sys

ALLOWED = {
    "base": "",
    "scan": "base",
    "fit": "base",
    "survey": "base scan fit",
    "pipe": "base scan fit",
    "standards": "base",
    "section": "base scan fit",
    "sketch": "base fit section",
    "datum": "base scan fit",
    "patch": "base scan",
    "curve": "base",
    "cloud": "base scan",
    "joining": "base scan fit survey datum cloud",
    "model": "base scan pipe fit standards section sketch patch curve",
    "deviation": "base scan fit section model",
    "io": "base scan section sketch model",
    "project": "base scan cloud joining fit survey standards section sketch datum instruments model io",
    "reading": "base scan pipe patch curve fit survey standards section sketch datum model deviation project",
    "store": "base scan fit survey section sketch datum model io project",
    "report": "base scan model section sketch standards deviation io project",
    "instruments": "base fit scan",
    "simulate": "base fit scan model deviation instruments",
}
HEAVY = re.compile(r"^(embree|CGAL|BRep|Top|gp_|Geom|STEP|XCAF|nlohmann|tbb|zip\.h)")
WRAPPERS = {"model/model_impl.h", "model/kernel_progress.h", "model/profile.h", "model/tool_body.h", "model/operate.h", "model/copies.h", "model/dress_up.h", "model/spline_shell.h", "model/edge_form.h", "model/parting.h", "model/steps/loft/guided.h", "model/steps/loft/sections.h", "model/steps/loft/skin.h", "model/steps/loft/loft_body.h", "model/screw_motion.h", "model/sewn.h", "model/steps/extrude/twisted.h", "model/steps/hole/tapped_inside.h", "simulate/solids.h",
            "deviation/face_surface.h",
            "store/manifest.h"}  # included by .cpp files only

root = pathlib.Path(sys.argv[1]) / "src" / "core"
failures = []
for path in sorted(root.rglob("*.[ch]*")):
    module = path.relative_to(root).parts[0]
    if module not in ALLOWED:
        continue
    for number, line in enumerate(path.read_text().splitlines(), 1):
        match = re.match(r'#include [<"]([^>"]+)[>"]', line)
        if not match:
            continue
        name = match.group(1)
        first = name.split("/")[0]
        if first in ALLOWED and first != module and first not in ALLOWED[module].split():
            failures.append(f"{path}:{number}: {module} may not include {name}")
        if re.match(r"^Q[A-Z]|^Qt", name):
            failures.append(f"{path}:{number}: the core has no interface code: {name}")
        if path.suffix == ".h" and HEAVY.match(name) and str(path.relative_to(root)) not in WRAPPERS:
            failures.append(f"{path}:{number}: heavy header in a header: {name}")
# A file of a fixed name in the shared folder is another test's file too: tests run beside each other.
for path in sorted((root.parents[1] / "tests").rglob("*.cpp")):
    for number, line in enumerate(path.read_text().splitlines(), 1):
        if re.search(r"::testing::TempDir\(\)|temp_directory_path", line) and path.parent.name in ("core", "app") and "project.schema.json" not in line:
            failures.append(f"{path}:{number}: write into testing::scratch()")
print("\n".join(failures) or "layers hold")
sys.exit(1 if failures else 0)
