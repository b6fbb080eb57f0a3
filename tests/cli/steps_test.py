"""Steps of any kind added and changed on the command line, by the parts that each is made of."""
import math
import os
import pathlib
import random
import struct
import subprocess
import tempfile
import unittest

from command_line import CLI, ask, run

LENGTH, WIDTH, HEIGHT = 60.0, 40.0, 20.0


def write_block(path):
    """A block of 60 x 40 x 20 about the origin's corner, its faces in squares of 1 mm, with noise."""
    chance = random.Random(20)
    noisy = {}

    def vertex(p):
        if p not in noisy:
            noisy[p] = tuple(c + chance.gauss(0, 0.004) for c in p)
        return noisy[p]

    def face(at, u, v, nu, nv):
        place = lambda i, j: vertex(tuple(at[k] + i * u[k] + j * v[k] for k in range(3)))
        for i in range(nu):
            for j in range(nv):
                a, b, c, d = place(i, j), place(i + 1, j), place(i + 1, j + 1), place(i, j + 1)
                yield from ((a, b, c), (a, c, d))

    l, w, h = int(LENGTH), int(WIDTH), int(HEIGHT)
    x, y, z = (1, 0, 0), (0, 1, 0), (0, 0, 1)
    triangles = [*face((0, 0, h), x, y, l, w), *face((0, 0, 0), y, x, w, l),
                 *face((0, 0, 0), x, z, l, h), *face((0, w, 0), z, x, h, l),
                 *face((0, 0, 0), z, y, h, w), *face((l, 0, 0), y, z, w, h)]
    with open(path, "wb") as file:
        file.write(b" " * 80 + struct.pack("<I", len(triangles)))
        for t in triangles:
            file.write(struct.pack("<12fH", 0, 0, 0, *[c for corner in t for c in corner], 0))


class Steps(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.folder = tempfile.TemporaryDirectory()
        cls.block = os.path.join(cls.folder.name, "block.lostline")
        scan = os.path.join(cls.folder.name, "block.stl")
        write_block(scan)
        ask("project", "new", cls.block, scan)
        ask("project", "section", cls.block, "--level", "10", "--name", "outline")
        ask("project", "extrude", cls.block, "--from", "0", "--to", "20", "--name", "block")

    @classmethod
    def tearDownClass(cls):
        cls.folder.cleanup()

    def path(self, name):
        return os.path.join(self.folder.name, name)

    def test_a_section_through_regions_cuts_them_alone(self):
        surveyed = self.path("surveyed.lostline")
        ask("project", "survey", self.block, "--out", surveyed)
        cut = lambda *words: ask("project", "section", surveyed, "--level", "7", "--out", self.path("cut.lostline"), *words)
        whole = cut()["evidence"]
        self.assertEqual(len({e["region"] for e in whole}), 4)
        wall = whole[0]["region"]
        alone = cut("--regions", str(wall), "--name", "wall")["evidence"]
        self.assertEqual([e["region"] for e in alone], [wall])
        # It is cut so again when the project is opened.
        shown = ask("project", "sketch", self.path("cut.lostline"), "--sketch", "wall", "--out", self.path("wall.dxf"))
        self.assertEqual([e["region"] for e in shown["evidence"]], [wall])
        said = run("project", "section", surveyed, "--regions", "99", expect=1).stderr
        self.assertIn("no region 99", said)
        said = run("project", "section", surveyed, "--also", "nobody", expect=1).stderr
        self.assertIn("nobody", said)

    def with_step(self, project, kind, *words, name=None, out="next.lostline"):
        """A step added; the volume after it, and the rows of the Ledger."""
        sets = [a for word in words for a in ("--set", word)]
        names = ["--name", name] if name else []
        told = ask("project", "step", project, kind, *sets, *names, "--out", self.path(out))
        made = ask("replay", self.path(out))
        self.assertEqual(made["steps"][-1]["state"], "sound")
        self.assertTrue(made["valid"])
        return made["volume"], {row["name"]: row for row in told["dimensions"]}

    def test_a_profile_twists_and_the_scan_tells_that_this_one_does_not(self):
        twisted = self.path("twisted.lostline")
        told = ask("project", "extrude", self.block, "--from", "30", "--to", "50", "--twist", "25", "--name", "turned",
                   "--out", twisted)
        row = next(r for r in told["dimensions"] if r["name"] == "turned twist")
        self.assertEqual(row["intent"], 25)
        made = ask("replay", twisted)
        self.assertTrue(made["valid"])
        self.assertAlmostEqual(made["volume"], 2 * 48000, delta=60)
        # The block's own walls do not turn.
        read = ask("project", "extrude", self.block, "--from", "0", "--to", "20", "--read-twist", "--out", twisted)["twist"]
        self.assertLess(abs(read["deg"]), read["u"] + 0.05)

    def test_threads_have_a_class_and_their_turns_can_be_cut(self):
        project = self.path("tapped.lostline")
        ask("project", "curves", self.block, self.circle(), "--name", "hole", "--out", project)
        smooth = self.path("smooth.lostline")
        ask("project", "hole", project, "--sketch", "hole", "--thread", "M24", "--class", "5H", "--name", "tap", "--out", smooth)
        plain = ask("replay", smooth)
        cut = self.path("cut_thread.lostline")
        ask("project", "hole", project, "--sketch", "hole", "--thread", "M24", "--modelled", "--name", "tap", "--out", cut)
        modelled = ask("replay", cut)
        self.assertTrue(modelled["valid"])
        self.assertGreater(plain["volume"] - modelled["volume"], 100)
        said = run("project", "hole", project, "--sketch", "hole", "--thread", "M24", "--class", "8X", expect=2).stderr
        self.assertIn("6H", said)

    def circle(self):
        """A DXF file with a circle of 21 in the middle of the block."""
        path = self.path("circle.dxf")
        pathlib.Path(path).write_text("\n".join(["0", "SECTION", "2", "ENTITIES", "0", "CIRCLE", "8", "0", "10", "30.0", "20",
                                                "20.0", "30", "0.0", "40", "10.5", "0", "ENDSEC", "0", "EOF", ""]))
        return path

    def test_the_kinds_say_what_they_are_made_of(self):
        kinds = {k["kind"]: k for k in ask("project", "kinds")["kinds"]}
        self.assertGreaterEqual(len(kinds), 25)
        thickness = next(p for p in kinds["rib"]["parts"] if p["name"] == "thickness")
        self.assertEqual(thickness["takes"], "mm")
        side = next(p for p in kinds["thicken"]["parts"] if p["name"] == "side")
        self.assertEqual(side["words"], ["outwards", "inwards", "both sides"])

    def test_the_manual_page_names_every_command(self):
        page = pathlib.Path(os.environ["LOSTLINE_SOURCE_DIR"], "packaging", "lostline-cli.1").read_text()
        page = page.replace("\\-", "-")
        for words in ([], ["project"]):
            listed = run(*words, "--help").stdout.split("Subcommands:")[1]
            commands = [line.split()[0] for line in listed.splitlines() if line.startswith("  ") and line[2] != " "]
            self.assertGreater(len(commands), 15)
            for command in commands:
                self.assertRegex(page, r"(?m)^\.BR? %s( |$)" % command)

    def test_faces_edges_and_bodies_are_picked_by_place_and_name(self):
        full = ask("replay", self.block)["volume"]
        self.assertAlmostEqual(full, 48000, delta=30)
        shelled, rows = self.with_step(self.block, "shell", "open=30,20,20", "thickness=2")
        self.assertAlmostEqual(shelled, 48000 - 56 * 36 * 18, delta=60)
        self.assertEqual(rows["shell thickness"]["intent"], 2)
        # A round of 5 along one edge of 20 takes a corner (1 - pi / 4) r2 off.
        rounded, _ = self.with_step(self.block, "fillet", "edges=0,0,10", "radius=5")
        self.assertAlmostEqual(full - rounded, (1 - math.pi / 4) * 25 * 20, delta=1)
        doubled, _ = self.with_step(self.block, "scale_body", "bodies=block", "from=20", "to=40")
        self.assertAlmostEqual(doubled / full, 8, places=6)
        leaning, _ = self.with_step(self.block, "draft", "faces=60,20,10", "neutral=xy", "angle=5")
        self.assertAlmostEqual(full - leaning, 0.5 * 20 * 20 * math.tan(math.radians(5)) * 40, delta=3)
        # A leaning the other way is the same step with the other sign; a degree is a degree.
        moved, _ = self.with_step(self.block, "move_body", "bodies=block", "x=100", "copy=yes")
        self.assertAlmostEqual(moved / full, 2, places=6)

    def test_a_sketch_takes_over_edges_faces_axes_and_the_cut(self):
        project = self.path("taken.lostline")
        ask("project", "survey", self.block, "--out", project)
        ask("project", "section", project, "--level", "5", "--name", "upper")
        bring = lambda *words, **kw: ask("project", "bring-in", project, "--sketch", "upper", *words, **kw)
        # The top of the block: four lines; the cut lies where they are seen, and so do the edges.
        self.assertEqual(len(bring("--faces", "30,20,20")["added"]), 4)
        self.assertEqual(bring("--cut", "--edges", "30,0,20")["added"], [])
        # An edge that stands on the plane is a place in it.
        self.assertEqual(len(bring("--edges", "0,0,10")["added"]), 1)
        # A wall of the scan is the line in which it cuts; the top is none.
        walls, level = 0, 0
        for region in range(1, 7):
            told = subprocess.run([CLI, "project", "bring-in", project, "--sketch", "upper", "--regions", str(region), "--out", self.path("x.lostline")],
                                  capture_output=True, text=True, timeout=280)
            walls += told.returncode == 0
            level += "lies along the plane" in told.stderr
        self.assertEqual((walls, level), (4, 2))
        # The sketch that the block is made of lies there too.
        self.assertEqual(bring("--from", "outline")["added"], [])
        self.assertIn("into itself", run("project", "bring-in", project, "--sketch", "upper", "--from", "upper", expect=2).stderr)
        self.assertIn("Say what comes in", run("project", "bring-in", project, expect=2).stderr)
        self.assertIn("no face", run("project", "bring-in", project, "--faces", "300,0,0", expect=1).stderr)
        # Its dimensions are told by the whole walls too.
        rows = ask("project", "dimension", project, "--sketch", "outline", "--out", self.path("x.lostline"))["dimensions"]
        whole = [r["regions"] for r in rows if "regions" in r]
        self.assertTrue(whole)
        for told in whole:
            self.assertLess(min(abs(told["reading"] - size) for size in (LENGTH, WIDTH)), 0.01)
            self.assertEqual(len(told["regions"]), 2)
        # The profile of the step is what it was.
        self.assertEqual(ask("replay", project)["steps"][-1]["state"], "sound")

    def test_steps_that_read_the_scan_take_its_value_where_none_is_said(self):
        thin = self.path("thin.lostline")
        ask("project", "edit-step", self.block, "block", "--set", "to=18", "--out", thin)
        raised, rows = self.with_step(thin, "offset_face", "faces=30,20,18")
        self.assertAlmostEqual(rows["offset_face distance"]["reading"], 2, delta=0.01)
        self.assertIsNone(rows["offset_face distance"]["intent"])
        self.assertAlmostEqual(raised, ask("replay", self.block)["volume"], delta=25)

    def test_steps_are_changed_parked_set_between_and_taken_out(self):
        pipe = self.path("pipe.lostline")
        volume, _ = self.with_step(self.block, "pipe", "path=0,0,40;50,0,40,15;50,60,40", "radius=4",
                                   "operation=new body", name="duct", out="pipe.lostline")
        # Two straights less the bend's tangents, and a quarter turn of 15.
        length = 35 + 45 + 15 * math.pi / 2
        alone = volume - ask("replay", self.block)["volume"]
        self.assertAlmostEqual(alone, math.pi * 16 * length, delta=1)
        rounded = self.path("rounded.lostline")
        told = ask("project", "step", pipe, "chamfer", "--set", "edges=0,0,10", "--set", "leg=3",
                   "--behind", "block", "--name", "corner", "--out", rounded)
        self.assertEqual([s["name"] for s in told["steps"]], ["block", "corner", "duct"])
        self.assertEqual(told["steps"][1]["number"], 15)
        parked = ask("project", "edit-step", rounded, "corner", "--park", "--name", "later",
                     "--out", self.path("parked.lostline"))
        self.assertEqual(parked["steps"][1]["name"], "later")
        made = ask("replay", self.path("parked.lostline"))
        self.assertEqual(made["steps"][1]["state"], "parked")
        self.assertAlmostEqual(made["volume"], volume, places=3)
        ask("project", "remove-step", rounded, "15", "--out", self.path("without.lostline"))
        self.assertAlmostEqual(ask("replay", self.path("without.lostline"))["volume"], volume, places=3)

    def test_curves_in_space_are_followed(self):
        # Over the top of the block and down its end: three places, pulled on to the scan between.
        path = self.path("curve.lostline")
        told = ask("project", "curve", self.block, "--at", "10,10,20", "--at", "40,30,20", "--at", "55,30,20",
                   "--on-scan", "--name", "way", "--out", path)
        self.assertGreaterEqual(len(told["places"]), 3)
        self.assertLess(told["max"], 0.1)
        for place in told["places"]:
            self.assertAlmostEqual(place[2], 20, delta=0.05)
        alone = ask("replay", path)
        self.assertEqual([b["kind"] for b in alone["bodies"]], ["solid", "curve"])
        volume, _ = self.with_step(path, "pipe", "along=way", "radius=2", "operation=new body", out="piped.lostline")
        self.assertAlmostEqual(volume - alone["volume"], math.pi * 4 * told["length"], delta=0.01 * told["length"])
        # Written and read back, the curve goes along.
        step = self.path("curve.step")
        ask("replay", path, "--out", step)
        self.assertIn("B_SPLINE_CURVE", pathlib.Path(step).read_text())
        self.assertIn("at least", run("project", "curve", self.block, "--at", "1,2,3", expect=2).stderr)
        self.assertIn("no region", run("project", "curve", self.block, "--region", "1", "--middle", expect=2).stderr)

    def test_what_does_not_fit_is_said_and_nothing_written(self):
        before = pathlib.Path(self.block).read_bytes()

        def refused(kind, *words, expect=2):
            sets = [a for word in words for a in ("--set", word)]
            return run("project", "step", self.block, kind, *sets, expect=expect).stderr

        self.assertIn("There are: extrude", refused("gear"))
        self.assertIn('Shell has no "wall". There are: open', refused("shell", "wall=3"))
        self.assertIn("NAME=VALUE", refused("shell", "thickness"))
        self.assertIn("takes a number", refused("shell", "thickness=thick"))
        self.assertIn("no face of the model at", refused("shell", "open=0,0,99", expect=1))
        self.assertIn("no edge of the model at", refused("fillet", "edges=30,20,10", "radius=1", expect=1))
        self.assertIn("There are: block", refused("scale_body", "bodies=cover", expect=1))
        self.assertIn("one of outwards, inwards", refused("thicken", "side=upwards"))
        self.assertIn("There are: outline", refused("rib", "sketch=no", expect=1))
        self.assertIn("from 2 to 2000", refused("pattern", "source=block", "count=1"))
        # What the geometry refuses says what would work.
        self.assertIn("up to about", refused("fillet", "edges=0,0,10", "radius=45", expect=1))
        self.assertEqual(pathlib.Path(self.block).read_bytes(), before)


if __name__ == "__main__":
    unittest.main(verbosity=2)
