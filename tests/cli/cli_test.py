"""The command line contract on the demo part: keys, exit codes, files that other readers accept."""
import json
import math
import os
import pathlib
import subprocess
import sys
import tempfile
import unittest
import xml.etree.ElementTree as ElementTree

CLI, DEMO, SOURCE = os.environ["LOSTLINE_CLI"], os.environ["LOSTLINE_DEMO_DIR"], os.environ["LOSTLINE_SOURCE_DIR"]
SCAN = os.path.join(DEMO, "pedestal.stl")
TRUTH = os.path.join(DEMO, "truth", "pedestal.step")


def run(*arguments, expect=0):
    done = subprocess.run([CLI, *arguments], capture_output=True, text=True, timeout=280)
    assert done.returncode == expect, (arguments, done.returncode, done.stderr)
    return done


def ask(*arguments, expect=0):
    return json.loads(run(*arguments, "--json", "--quiet", expect=expect).stdout)


class Contract(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.folder = tempfile.TemporaryDirectory()
        # One survey serves every test that names its regions.
        cls.surveyed = os.path.join(cls.folder.name, "surveyed.lostline")
        cls.survey = ask("survey", SCAN, "--out", cls.surveyed)

    def path(self, name):
        return os.path.join(self.folder.name, name)

    def test_info(self):
        info = ask("info", SCAN)
        for key in "triangles vertices points bbox unit_guess spacing noise_sigma components open_edges non_manifold_edges area volume".split():
            self.assertIn(key, info)
        self.assertEqual(info["unit_guess"], "mm")
        self.assertAlmostEqual(info["noise_sigma"], 0.022, delta=0.006)

    def test_options_stand_before_or_after_the_command(self):
        before = run("--json", "--quiet", "--threads", "1", "info", SCAN)
        self.assertEqual(json.loads(before.stdout), ask("info", SCAN))
        self.assertEqual(before.stderr, "")

    def test_survey(self):
        for key in "regions unassigned_area_fraction relations noise_sigma seconds".split():
            self.assertIn(key, self.survey)
        for region in self.survey["regions"]:
            for key in "id type area triangles params u rms form_error finish trust".split():
                self.assertIn(key, region)
            if region["type"] == "cylinder":
                self.assertAlmostEqual(math.hypot(*region["params"]["axis"]), 1, places=9)
        self.assertTrue(any(r["type"] == "coaxial" for r in self.survey["relations"]))

    def frame_file(self):
        regions = self.survey["regions"]
        holes = [r for r in regions if r["type"] == "cylinder" and abs(r["params"]["radius"] - 6.75) < 0.05]
        bore = next(r for r in regions if r["type"] == "cylinder" and abs(r["params"]["radius"] - 21) < 0.1)
        pair = next((a, b) for a in holes for b in holes if abs(math.dist(a["centre"], b["centre"]) - 140) < 1)
        frame = {
            "primary": {"fit": {"region": regions[0]["id"]}, "axis": "-z"},
            "secondary": {"fits": [{"near": pair[0]["centre"]}, {"region": pair[1]["id"]}], "axis": "+x"},
            "origin": {"fits": [{"region": bore["id"]}]},
        }
        with open(self.path("frame.json"), "w") as file:
            json.dump(frame, file)
        return self.path("frame.json")

    def test_align_by_datum_targets(self):
        # On the foot of the demo: three places under it, two on a long side, one at an end, found
        # from the survey's planes and given as points near the scan.
        deviation = ask("align", self.surveyed, "--to", TRUTH)
        to_model = deviation["transform"]
        def scan_point(p):
            # rigid: the inverse is the transpose
            d = [p[i] - to_model[i][3] for i in range(3)]
            return [sum(to_model[r][c] * d[r] for r in range(3)) for c in range(3)]
        spec = {"targets": {"A": [scan_point(p) for p in ([-50, -46, 0], [50, -46, 0], [-50, 46, 0])],
                            "B": [scan_point(p) for p in ([-60, -55, 7], [60, -55, 7])],
                            "C": [scan_point([-90, 10, 7])], "diameter": 8},
                "primary": {"axis": "-z"}, "secondary": {"axis": "-y"}}
        named = self.path("targets.json")
        pathlib.Path(named).write_text(json.dumps(spec))
        done = ask("align", self.surveyed, "--frame", named)
        # The corner of the three planes is the origin; the model has it at -90, -55, 0.
        corner = scan_point([-90, -55, 0])
        moved = [sum(done["transform"][r][c] * corner[c] for c in range(3)) + done["transform"][r][3] for r in range(3)]
        self.assertLess(math.hypot(*moved), 0.25)
        spec["targets"]["B"] = spec["targets"]["B"][:1]
        pathlib.Path(named).write_text(json.dumps(spec))
        self.assertIn("need 2 points", run("align", self.surveyed, "--frame", named, expect=2).stderr)
        spec["targets"]["B"] = [[1000, 0, 0], [1000, 50, 0]]
        pathlib.Path(named).write_text(json.dumps(spec))
        self.assertIn("B1", run("align", self.surveyed, "--frame", named, expect=2).stderr)

    def test_frame_by_datum_features(self):
        regions = self.survey["regions"]
        holes = [r for r in regions if r["type"] == "cylinder" and abs(r["params"]["radius"] - 6.75) < 0.05]
        self.assertEqual(len(holes), 4)
        pair = next((a, b) for a in holes for b in holes if abs(math.dist(a["centre"], b["centre"]) - 140) < 1)
        other = [h for h in holes if h not in pair]
        named = lambda r: {"region": r["id"]}
        # Origin on the axis through the middle of the bolt circle, direction along two centres.
        spec = {"primary": {"fit": named(regions[0]), "axis": "-z"},
                "secondary": {"fits": [{"axis_of_two": [named(r) for r in pair]}], "axis": "+x"},
                "origin": {"fits": [{"bolt_circle": [named(r) for r in (*pair, *other)]}]}}
        file = self.path("features.json")
        pathlib.Path(file).write_text(json.dumps(spec))
        done = ask("align", self.surveyed, "--frame", file)
        self.assertEqual([f["feature"] for f in done["features"]], ["axis_of_two", "bolt_circle"])
        self.assertEqual(done["features"][1]["type"], "circle")
        # 140 x 76 between the holes of the foot: its diagonal is the bolt circle.
        self.assertAlmostEqual(2 * done["features"][1]["params"]["radius"], math.hypot(140, 76), delta=0.03)
        centres = [[sum(done["transform"][r][c] * h["centre"][c] for c in range(3)) + done["transform"][r][3]
                    for r in range(3)] for h in holes]
        for k, half in enumerate((70, 38)):
            for c in centres:
                self.assertAlmostEqual(abs(c[k]), half, delta=0.1)

        # A plane of symmetry found from nothing: the four holes lie alike on either side of it.
        spec["secondary"] = {"fits": [{"symmetry_plane": []}], "axis": "+y"}
        pathlib.Path(file).write_text(json.dumps(spec))
        mirrored = ask("align", self.surveyed, "--frame", file)
        self.assertEqual(mirrored["features"][0]["feature"], "symmetry_plane")
        plane = mirrored["features"][0]["params"]
        off = [sum(plane["normal"][k] * (h["centre"][k] - plane["point"][k]) for k in range(3)) for h in holes]
        self.assertAlmostEqual(sum(off), 0, delta=0.4)
        self.assertTrue(min(abs(max(off) - half) for half in (70, 38)) < 0.2, off)

        spec["secondary"] = {"fits": [{"midplane": [named(regions[0]), named(holes[0])]}], "axis": "+y"}
        pathlib.Path(file).write_text(json.dumps(spec))
        self.assertIn("two planes", run("align", self.surveyed, "--frame", file, expect=2).stderr)
        spec["secondary"] = {"fits": [{"midway": []}], "axis": "+y"}
        pathlib.Path(file).write_text(json.dumps(spec))
        self.assertIn("midway", run("align", self.surveyed, "--frame", file, expect=2).stderr)

    def test_datum_systems_are_proposed_as_frame_files(self):
        offered = ask("align", self.surveyed, "--propose")
        self.assertGreaterEqual(len(offered["systems"]), 1)
        best = offered["systems"][0]
        # The machined foot carries the part; every choice has its reason.
        self.assertEqual(best["frame"]["primary"], {"fit": {"region": self.survey["regions"][0]["id"]}, "axis": "-z"})
        self.assertTrue(all(best["reasons"]))
        file = self.path("proposed.json")
        pathlib.Path(file).write_text(json.dumps(best["frame"]))
        again = ask("align", self.surveyed, "--frame", file)
        for mine, theirs in zip(again["transform"], offered["transform"]):
            for a, b in zip(mine, theirs):
                self.assertAlmostEqual(a, b, delta=1e-9)
        run("align", self.surveyed, "--propose", "--to", TRUTH, expect=2)

    def test_align_section_deviate(self):
        moved = self.path("moved.ply")
        aligned = ask("align", self.surveyed, "--frame", self.frame_file(), "--out", moved)
        self.assertEqual([len(row) for row in aligned["transform"]], [4, 4, 4, 4])
        self.assertLess(aligned["rms"], 0.03)

        cut = ask("section", moved, "--origin", "0,0,7", "--normal", "0,0,1", "--resolve", "0.2", "--out", self.path("foot.dxf"))
        self.assertEqual(sum(e["type"] == "circle" for e in cut["entities"]), 5)
        self.assertLess(cut["rms"], 0.06)
        for line in cut["polylines"]:
            self.assertEqual(set(line), {"closed", "few", "points", "length", "gaps"})
        # Under the foot the plane runs along its face.
        along = run("section", moved, "--origin", "0,0,0", "--normal", "0,0,1", "--resolve", "0.2", expect=1)
        self.assertIn("runs along a face", along.stderr)
        import ezdxf  # a reader that is not ours

        drawing = ezdxf.readfile(self.path("foot.dxf"))
        radii = sorted(c.dxf.radius for c in drawing.modelspace().query("CIRCLE"))
        self.assertEqual(len(radii), 5)
        for radius, truth in zip(radii, [6.75] * 4 + [21.0]):
            self.assertAlmostEqual(radius, truth, delta=0.05)
        self.assertEqual(len(list(drawing.modelspace().query("LINE ARC CIRCLE ELLIPSE SPLINE"))), len(cut["entities"]))
        self.assertEqual(len(drawing.audit().errors), 0)
        ask("section", moved, "--origin", "-12.3,0,7", "--normal", "0,0,1", "--resolve", "0.2", "--out", self.path("foot.svg"))
        # The same curves in space, in the exchange formats of models.
        for name, mark in (("foot.step", "CIRCLE("), ("foot.igs", "100       1")):
            ask("section", moved, "--origin", "0,0,7", "--normal", "0,0,1", "--resolve", "0.2", "--out", self.path(name))
            text = pathlib.Path(self.path(name)).read_text()
            self.assertIn(mark.split()[0], text)
        self.assertIn("no curves", run("section", moved, "--origin", "0,0,7", "--normal", "0,0,1", "--out", self.path("none.step"), expect=2).stderr)
        ElementTree.parse(self.path("foot.svg"))

        deviation = ask("deviate", moved, TRUTH, "--tolerance", "0.15", "--out", self.path("map.ply"))
        for key in "n rms mean sd p95_abs max max_at min min_at within_fraction seconds".split():
            self.assertIn(key, deviation)
        self.assertGreater(deviation["within_fraction"], 0.95)
        self.assertFalse(deviation["outside"])
        # Outside the tolerance the command fails, and still says all it found.
        tight = ask("deviate", moved, TRUTH, "--tolerance", "0.01", expect=1)
        self.assertTrue(tight["outside"])
        self.assertAlmostEqual(tight["rms"], deviation["rms"], places=9)
        self.assertFalse(ask("deviate", moved, TRUTH, "--tolerance", "0.01", "--within", "0.1")["outside"])

    def test_a_scan_is_brought_upon_its_model(self):
        moved = self.path("upon.ply")
        upon = ask("align", SCAN, "--to", TRUTH, "--out", moved)
        self.assertEqual(len(upon["candidates"]), 2)  # half a turn about the boss
        self.assertEqual(upon["not_held"], [])
        self.assertLess(upon["rms"], 0.03)
        self.assertGreater(upon["used_fraction"], 0.97)
        # The corner broken off the foot, and strays.
        corner = max(upon["differing"], key=lambda d: d["area"])
        self.assertGreater(corner["area"], 200)
        self.assertLess(corner["greatest"], -4)
        within = ask("deviate", moved, TRUTH, "--tolerance", "0.15")["within_fraction"]
        self.assertGreater(within, 0.97)
        other = ask("align", self.surveyed, "--to", TRUTH, "--candidate", "2")["transform"]
        turned = sum(other[0][k] * upon["transform"][0][k] for k in range(3))
        self.assertAlmostEqual(turned, -1, delta=0.001)
        run("align", self.surveyed, "--to", TRUTH, "--candidate", "9", expect=2)
        run("align", self.surveyed, expect=2)
        # Pairs of points stand in where nothing matches; too few are refused.
        inverse = upon["transform"]
        def scan_point(p):
            d = [p[k] - inverse[k][3] for k in range(3)]
            return [sum(inverse[k][c] * d[k] for k in range(3)) for c in range(3)]
        spots = [[70, 38, 14], [-70, 38, 14], [0, -40, 14], [25, 0, 84]]
        pairs = [{"scan": {"point": scan_point(p)}, "model": {"point": p}} for p in spots]
        named = self.path("pairs.json")
        pathlib.Path(named).write_text(json.dumps({"pairs": pairs}))
        again = ask("align", self.surveyed, "--to", TRUTH, "--pairs", named)
        for mine, theirs in zip(again["transform"][:3], upon["transform"]):
            for a, b in zip(mine, theirs):
                self.assertAlmostEqual(a, b, delta=0.01)
        pathlib.Path(named).write_text(json.dumps({"pairs": pairs[:2]}))
        done = run("align", self.surveyed, "--to", TRUTH, "--pairs", named, expect=1)
        self.assertIn("at least three", done.stderr)
        pathlib.Path(named).write_text("[]")
        run("align", self.surveyed, "--to", TRUTH, "--pairs", named, expect=2)
        words = {"pairs": [{"scan": {"near": ["a", 1, 2]}, "model": {"point": [0, 0, 0]}}]}
        pathlib.Path(named).write_text(json.dumps(words))
        self.assertIn("is named by", run("align", self.surveyed, "--to", TRUTH, "--pairs", named, expect=2).stderr)

    def test_the_survey_tells_patterns_and_form(self):
        kinds = {p["type"]: p for p in self.survey["patterns"]}
        self.assertEqual(len(kinds["grid"]["regions"]), 4)
        self.assertAlmostEqual(max(kinds["grid"]["value"], kinds["grid"]["second"]), 140, delta=0.02)
        self.assertIn("coaxial stack", kinds)
        bore = next(r for r in self.survey["regions"] if r["type"] == "cylinder" and r["params"]["radius"] > 15)
        self.assertIn("oval", bore["form"]["text"])  # worn by its bush
        for r in self.survey["regions"]:
            self.assertLessEqual(r["direction_of"], len(self.survey["regions"]))
            self.assertNotEqual(r["direction_of"], r["id"])
        self.assertEqual(bore["finish"], "machined")

    def test_outline_is_the_silhouette_with_its_offset(self):
        moved = self.path("seen.ply")
        ask("align", self.surveyed, "--frame", self.frame_file(), "--out", moved)
        seen = ask("outline", moved, "--direction", "0,0,1", "--resolve", "0.1", "--out", self.path("seen.dxf"))
        for key in "polylines entities shapes frame rms max_drift seconds".split():
            self.assertIn(key, seen)
        box = ask("info", moved)["bbox"]
        xs = [p[0] for p in seen["polylines"][0]["points"]]
        width = box["max"][0] - box["min"][0], box["max"][1] - box["min"][1]
        spans = sorted([max(xs) - min(xs), max(p[1] for p in seen["polylines"][0]["points"]) - min(p[1] for p in seen["polylines"][0]["points"])])
        # Islands beside the part are in the box of the scan, but are no part of the outline.
        for span, true in zip(spans, sorted(width)):
            self.assertLess(span, true + 0.3)
            self.assertGreater(span, 0.8 * true)
        self.assertGreater(sum(e["type"] in ("line", "arc") for e in seen["entities"]), 5)
        wider = ask("outline", moved, "--direction", "0,0,1", "--offset", "5", "--outer")
        self.assertEqual(len(wider["polylines"]), 1)
        self.assertEqual(wider["entities"], [])
        ys = [p[0] for p in wider["polylines"][0]["points"]]
        self.assertAlmostEqual(max(ys) - min(ys), max(xs) - min(xs) + 10, delta=0.3)
        self.assertIn("smaller", run("outline", moved, "--direction", "0,0,1", "--offset", "-500", expect=1).stderr)
        run("outline", moved, "--direction", "0,0,0", expect=2)

    def test_turn_section_sees_the_boss_from_its_axis(self):
        moved = self.path("turned.ply")
        ask("align", self.surveyed, "--frame", self.frame_file(), "--out", moved)
        for extra in (["--angle", "45"], ["--fan"]):
            cut = ask("section", moved, "--origin", "0,0,0", "--axis", "0,0,1", "--resolve", "0.3", *extra)
            self.assertTrue(cut["polylines"])
            for line in cut["polylines"]:
                self.assertTrue(all(x >= -1e-9 for x, _ in line["points"]))
            # The bore's wall: an upright line at radius 21 (worn outward by some hundredths).
            walls = [
                e for e in cut["entities"]
                if e["type"] == "line" and abs(e["a"][0] - 21) < 0.15 and abs(e["b"][0] - 21) < 0.15
            ]
            self.assertTrue(walls, extra)
        run("section", moved, "--origin", "0,0,0", expect=2)
        run("section", moved, "--origin", "0,0,0", "--axis", "0,0,0", expect=2)
        compared = ask("deviate", moved, TRUTH, "--section-origin", "0,0,70", "--section-normal", "0,0,1", "--tolerance", "0.15")
        self.assertGreater(compared["n"], 500)
        self.assertLess(compared["rms"], 0.2)
        self.assertGreater(compared["within_fraction"], 0.9)

    def test_relations_say_what_they_cost(self):
        planes = [r for r in self.survey["regions"] if r["type"] == "plane"]
        square = next(
            r for r in self.survey["relations"]
            if r["type"] == "perpendicular" and {r["a"], r["b"]} <= {p["id"] for p in planes}
        )
        spec = {"relations": [{"type": "perpendicular", "a": square["a"], "b": square["b"]}]}
        with open(self.path("relations.json"), "w") as file:
            json.dump(spec, file)
        related = ask("relate", self.surveyed, "--relations", self.path("relations.json"))
        normals = [f["params"]["normal"] for f in related["fits"]]
        self.assertAlmostEqual(sum(a * b for a, b in zip(*normals)), 0, delta=1e-9)
        self.assertIn(related["relations"][0]["within_noise"], (True, False))
        self.assertGreaterEqual(related["relations"][0]["rms_with"], related["relations"][0]["rms_without"] - 1e-12)
        for bad in ({"relations": [{"type": "nearly", "a": 1, "b": 2}]}, {"relations": [{"type": "parallel", "a": 1, "b": 9999}]}, {}):
            with open(self.path("bad.json"), "w") as file:
                json.dump(bad, file)
            run("relate", self.surveyed, "--relations", self.path("bad.json"), expect=2)

    def test_clean_scales_thins_and_says_what_it_did(self):
        ask("convert", TRUTH, self.path("whole.stl"))
        before = ask("info", self.path("whole.stl"))
        done = ask("clean", self.path("whole.stl"), "--out", self.path("inch.ply"), "--measured", "10", "--known", "254")
        self.assertAlmostEqual(done["scale"], 25.4)
        after = ask("info", self.path("inch.ply"))
        self.assertAlmostEqual(after["volume"] / before["volume"], 25.4**3, delta=1)
        small = ask("simulate-scan", TRUTH, "--out", self.path("s.ply"), "--spacing", "2", "--views", "8")
        done = ask("clean", self.path("s.ply"), "--out", self.path("c.ply"), "--islands", "--spikes", "6", "--fill", "40", "--thin", "4", "--smooth", "3")
        self.assertEqual([a["act"] for a in done["acts"]], ["spikes", "fill", "thin", "smooth"])
        self.assertLess(done["triangles"], 0.6 * small["triangles"])
        self.assertGreater(done["acts"][-1]["moved_rms"], 0)
        run("clean", self.path("s.ply"), "--out", self.path("c.ply"), "--measured", "10", expect=2)

    def test_valley_names_the_rows_there_are(self):
        project = os.path.join(SOURCE, "data", "project", "plate-v1.lostline")
        told = run("valley", project, "--row", "nothing", expect=2).stderr
        self.assertIn("it has", told)

    def test_simulate_is_deterministic(self):
        files = [self.path("a.ply"), self.path("b.ply")]
        for file, threads in zip(files, ("1", "2")):
            made = ask("simulate-scan", TRUTH, "--out", file, "--spacing", "3", "--views", "6", "--seed", "5", "--threads", threads)
            self.assertEqual(made["seed"], 5)
        with open(files[0], "rb") as a, open(files[1], "rb") as b:
            self.assertEqual(a.read(), b.read())

    def test_convert(self):
        ask("convert", TRUTH, self.path("truth.stl"))
        info = ask("info", self.path("truth.stl"))
        self.assertEqual(info["open_edges"], 0)
        ask("convert", self.path("truth.stl"), self.path("truth.ply"))
        run("convert", SCAN, self.path("scan.step"), expect=2)
        # 3MF is a zip that states millimetres; its mesh comes back whole.
        ask("convert", self.path("truth.stl"), self.path("truth.3mf"))
        again = ask("info", self.path("truth.3mf"))
        self.assertEqual(again["triangles"], info["triangles"])
        self.assertEqual(again["open_edges"], 0)
        self.assertAlmostEqual(again["volume"], info["volume"], delta=1e-4 * abs(info["volume"]))
        import zipfile

        with zipfile.ZipFile(self.path("truth.3mf")) as archive:
            self.assertIsNone(archive.testzip())
            model = ElementTree.fromstring(archive.read("3D/3dmodel.model"))
        self.assertEqual(model.attrib["unit"], "millimeter")

    def test_report(self):
        project = os.path.join(SOURCE, "data", "project", "plate-v1.lostline")
        made = ask("report", project, "--out", self.path("r.pdf"), "--date", "2026-11-23")
        self.assertGreaterEqual(made["pages"], 1)
        with open(self.path("r.pdf"), "rb") as file:
            self.assertEqual(file.read(5), b"%PDF-")
        ask("report", project, "--out", self.path("r.html"))
        from html.parser import HTMLParser

        class Balance(HTMLParser):
            open = []

            def handle_starttag(self, tag, attributes):
                if tag not in ("meta", "img", "br"):
                    self.open.append(tag)

            def handle_startendtag(self, tag, attributes):
                pass

            def handle_endtag(self, tag):
                assert self.open.pop() == tag, tag

        with open(self.path("r.html"), encoding="utf-8") as file:
            text = file.read()
        Balance().feed(text)
        self.assertEqual(Balance.open, [])
        self.assertIn("plate", text)
        run("report", project, "--out", self.path("r.txt"), expect=2)
        run("report", "missing.lostline", "--out", self.path("r.pdf"), expect=2)

    def test_fillets_are_found_as_tori(self):
        tori = [r for r in self.survey["regions"] if r["type"] == "torus"]
        self.assertTrue(tori)
        for region in tori:
            # The fillet round the boss: radius 4, its ring four outside the boss's foot.
            self.assertAlmostEqual(region["params"]["minor_radius"], 4, delta=0.15)
            self.assertAlmostEqual(region["params"]["major_radius"], 40.9, delta=0.4)
            self.assertIn("minor_radius", region["u"])

    def test_bad_input(self):
        self.assertIn("missing.stl", run("info", "missing.stl", expect=2).stderr)
        with open(self.path("bad.stl"), "w") as file:
            file.write("nothing")
        self.assertIn("no STL", run("survey", self.path("bad.stl"), expect=2).stderr)
        run("section", SCAN, "--origin", "0,0", "--normal", "0,0,1", expect=2)
        run("section", SCAN, "--origin", "0,0,0", "--normal", "0,0,0", expect=2)
        run("deviate", SCAN, self.path("bad.stl"), expect=2)
        run("replay", self.path("bad.stl"), expect=2)
        run("unknown", expect=2)
        run("--version")

    def test_manifest_follows_the_published_schema(self):
        import zipfile

        import jsonschema

        with open(os.path.join(SOURCE, "docs", "design", "project.schema.json")) as file:
            schema = json.load(file)
        for version, steps in (("v1", 0), ("v2", 1)):
            project = os.path.join(SOURCE, "data", "project", f"plate-{version}.lostline")
            self.assertEqual(len(ask("replay", project)["steps"]), steps)
            with zipfile.ZipFile(project) as archive:
                jsonschema.validate(json.loads(archive.read("manifest.json")), schema)

    def project_with_bodies(self):
        """A project of two blocks and an open sheet, made by hand after the published schema."""
        import zipfile

        import jsonschema

        with zipfile.ZipFile(os.path.join(SOURCE, "data", "project", "plate-v4.lostline")) as old:
            entries = {name: old.read(name) for name in old.namelist()}
        manifest = json.loads(entries["manifest.json"])
        quantity = lambda value=0.0: {"value": value, "dimension": 0}

        def sketch(number, corners, closed):
            ends = list(range(10, 10 + len(corners)))
            lines = [(ends[k], ends[(k + 1) % len(ends)])
                     for k in range(len(ends) if closed else len(ends) - 1)]
            base = manifest["sketches"][0]
            return {**base, "id": number, "name": f"sketch {number}", "turn": None, "next_id": 100,
                    "points": [{"id": e, "at": list(c)} for e, c in zip(ends, corners)],
                    "entities": [{"id": 50 + k, "type": "line", "a": a, "b": b, "centre": 0,
                                  "radius": 0.0} for k, (a, b) in enumerate(lines)]}

        def extrude(number, of, surface):
            plain = json.loads(json.dumps(manifest["steps"][0]["extrude"]))
            plain.update({"sketch": of, "areas": [], "surface": surface})
            plain["extent"]["to"] = quantity(10.0)
            return {"id": number, "number": 10 * (number - 19), "name": f"part {number}",
                    "parked": False, "extrude": plain}

        block = lambda x: [(x, 0), (x + 10, 0), (x + 10, 10), (x, 10)]
        sketches = [sketch(11, block(0), True), sketch(12, block(20), True),
                    sketch(13, [(0, 20), (10, 20), (10, 30)], False)]
        steps = [extrude(20, 11, False), extrude(21, 12, False), extrude(22, 13, True)]
        manifest.update({"version": 6, "sketches": sketches, "steps": steps, "next_id": 99,
                         "bodies": {"s21": {"name": "cover", "colour": [200, 10, 20],
                                            "shown": True}}})
        with open(os.path.join(SOURCE, "docs", "design", "project.schema.json")) as file:
            jsonschema.validate(manifest, json.load(file))
        entries["manifest.json"] = json.dumps(manifest)
        path = self.path("bodies.lostline")
        with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as made:
            for name, content in entries.items():
                made.writestr(name, content)
        return path

    def test_a_project_is_worked_on_without_the_window(self):
        path = self.path("made.lostline")
        made = ask("project", "new", path, SCAN)
        self.assertEqual(made["unit"], "mm")
        self.assertIn("exists", run("project", "new", path, SCAN, expect=2).stderr)
        # A sketch needs a section, a model needs a step: each is said.
        self.assertIn("section", run("project", "sketch", path, "--out", self.path("none.dxf"), expect=2).stderr)
        self.assertIn("no model", run("project", "faces", path, expect=1).stderr)
        self.assertGreater(ask("project", "survey", path)["regions"], 20)
        self.assertTrue(ask("project", "frame", path, "--propose")["framed"])
        patterns = ask("project", "patterns", path)["patterns"]
        self.assertGreater(len(patterns), 0)
        circle = next((p["number"] for p in patterns if "equal" in p["pattern"] or "hole" in p["pattern"]), 1)
        before = ask("project", "show", path)["fits"]
        self.assertGreater(ask("project", "patterns", path, "--accept", str(circle))["fits"], before)
        self.assertIn("There is no pattern 99", run("project", "patterns", path, "--accept", "99", expect=2).stderr)
        cut = ask("project", "section", path, "--level", "7", "--name", "foot outline")
        self.assertEqual([s["name"] for s in cut["sketches"]], ["foot outline"])
        # Each curve names the region of the survey that it rests on, with its size and U.
        holes = [e for e in cut["evidence"] if e.get("type") == "cylinder" and e["share"] > 0.9]
        self.assertGreater(len(holes), 3)
        self.assertTrue(all(e["u"]["radius"] > 0 and e["params"]["radius"] > 0 for e in holes))
        self.assertGreater(sum(e.get("type") == "plane" for e in cut["evidence"]), 3)
        # Every dimension that the sketch lacks, in pencil; nothing is left loose.
        lined = self.path("lined.lostline")
        dimensioned = ask("project", "dimension", path, "--out", lined)
        self.assertGreater(dimensioned["added"], 10)
        self.assertEqual(dimensioned["freedoms"], 0)
        self.assertTrue(all(r["intent"] is None for r in dimensioned["dimensions"]))
        self.assertEqual(ask("project", "dimension", lined)["added"], 0)
        around = ask("project", "outline", path, "--offset", "3", "--outer", "--out", self.path("around.lostline"))
        self.assertEqual(around["sketches"][-1]["name"], "outline along z + 3")
        built = ask("project", "extrude", path, "--sketch", "foot outline", "--name", "foot")
        rows = {r["name"]: r for r in built["dimensions"]}
        self.assertAlmostEqual(rows["foot to"]["reading"], 14, delta=0.02)
        self.assertIsNone(rows["foot to"]["intent"])
        # By its nominal, by a value, all that is certain.
        inked = ask("project", "ink", path, "--row", "foot to")
        self.assertEqual({r["name"]: r["intent"] for r in inked["dimensions"]}["foot to"], 14)
        other = self.path("other.lostline")
        ask("project", "set", path, "--row", "foot to", "--value", "15", "--out", other)
        self.assertEqual(ask("replay", other)["steps"][0]["state"], "sound")
        thicker = ask("replay", other)["volume"] / ask("replay", path)["volume"]
        self.assertAlmostEqual(thicker, 15 / 14, delta=0.01)
        ask("project", "extrude", other, "--sketch", "foot outline", "--as", "cut", "--from", "12", "--to", "20")
        self.assertAlmostEqual(ask("replay", other)["volume"] / ask("replay", path)["volume"], 12 / 14, delta=0.01)
        self.assertIn("There are: ", run("project", "set", path, "--row", "nothing", "--value", "1", expect=2).stderr)
        self.assertGreaterEqual(ask("project", "ink", path, "--certain")["inked"], 1)
        drawing = self.path("foot.dxf")
        ask("project", "sketch", path, "--out", drawing)
        self.assertIn("CIRCLE", pathlib.Path(drawing).read_text())
        faces = ask("project", "faces", path)
        # The boss stands on the top of the foot, which the scan does not show there.
        self.assertGreater(faces["coverage"], 0.7)
        bottom = min((f for f in faces["faces"] if f["n"] > 5000), key=lambda f: abs(f["mean"]))
        self.assertLess(abs(bottom["mean"]), 0.05)
        for key in "name title coverage n rms mean max min tolerance within_fraction".split():
            self.assertIn(key, bottom)

    def test_bodies_are_named_handed_on_and_told_apart(self):
        project = self.project_with_bodies()
        step, mesh = self.path("BODIES.STP"), self.path("bodies.3MF")
        done = ask("replay", project, "--out", step)
        self.assertEqual([s["state"] for s in done["steps"]], ["sound"] * 3)
        self.assertEqual([(b["name"], b["kind"]) for b in done["bodies"]],
                         [("part 20", "solid"), ("cover", "solid"), ("part 22", "surface")])
        for body, volume in zip(done["bodies"], (1000, 1000, 0)):
            self.assertAlmostEqual(body["volume"], volume, places=6)
        self.assertAlmostEqual(done["bodies"][2]["area"], 200, places=6)
        # The parts of a step, as its kind describes them.
        self.assertEqual(done["steps"][2]["parts"]["surface"], True)
        with open(step) as file:
            text = file.read()
        self.assertIn("cover", text)
        run("replay", project, "--out", mesh)
        run("convert", mesh, self.path("bodies.ply"))
        info = ask("info", self.path("bodies.ply"))
        self.assertEqual(info["components"], 3)
        # Compared, each body has figures of its own.
        compared = ask("deviate", self.path("bodies.ply"), step)
        self.assertEqual([b["name"] for b in compared["bodies"]], ["part 20", "cover", "part 22"])
        self.assertLess(max(b["rms"] for b in compared["bodies"]), 1e-4)
        self.assertIn("models are written as", run("replay", project, "--out",
                                                   self.path("bodies.xyz"), expect=2).stderr)


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1], verbosity=1)
