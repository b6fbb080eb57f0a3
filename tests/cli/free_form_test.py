"""Pipes, patches, sweeps, lofts and drawings on the command line, on scans that the test makes."""
import csv
import json
import math
import os
import random
import subprocess
import tempfile
import unittest
import zipfile

CLI = os.environ["LOSTLINE_CLI"]
RADIUS, BEND, STRAIGHT = 8.0, 30.0, (70.0, 45.0, 60.0)


def run(*arguments, expect=0):
    done = subprocess.run([CLI, *arguments], capture_output=True, text=True, timeout=280)
    assert done.returncode == expect, (arguments, done.returncode, done.stderr)
    return done


def ask(*arguments, expect=0):
    return json.loads(run(*arguments, "--json", "--quiet", expect=expect).stdout)


def write_ply(path, points, triangles):
    with open(path, "w") as file:
        file.write(f"ply\nformat ascii 1.0\nelement vertex {len(points)}\nproperty float x\nproperty float y\nproperty float z\n"
                   f"element face {len(triangles)}\nproperty list uchar int vertex_indices\nend_header\n")
        file.writelines("%.6f %.6f %.6f\n" % p for p in points)
        file.writelines("3 %d %d %d\n" % t for t in triangles)


def grid(rows, columns, closed):
    triangles = []
    for i in range(rows - 1):
        for j in range(columns if closed else columns - 1):
            a, b = i * columns + j, i * columns + (j + 1) % columns
            triangles += [(a, b, a + columns), (b, b + columns, a + columns)]
    return triangles


def tube(path):
    """Straight along x, bent to y, straight, bent to z, straight: points on rings, with noise."""
    rng = random.Random(5)
    stations = []  # centre, two directions across
    x, y, z = (1, 0, 0), (0, 1, 0), (0, 0, 1)
    add = lambda p, d, s: tuple(p[k] + s * d[k] for k in range(3))
    mix = lambda a, s, b, t: tuple(s * a[k] + t * b[k] for k in range(3))
    step = 1.1
    at = (0.0, 0.0, 0.0)
    for length, along, across in ((STRAIGHT[0], x, y), (STRAIGHT[1], y, z), (STRAIGHT[2], z, None)):
        count = int(length / step)
        side = across or x
        other = [d for d in (x, y, z) if d not in (along, side)][0]
        for k in range(count):
            stations.append((add(at, along, length * k / count), side, other, along))
        at = add(at, along, length)
        if across is None:
            break
        centre = add(at, across, BEND)
        count = int(BEND * math.pi / 2 / step)
        for k in range(count):
            t = math.pi / 2 * k / count
            out = mix(along, math.sin(t), across, -math.cos(t))
            stations.append((add(centre, out, BEND), out, other, mix(along, math.cos(t), across, math.sin(t))))
        at = add(centre, along, BEND)
    ring = int(2 * math.pi * RADIUS / step)
    points = []
    for centre, u, v, along in stations:
        # The same start of each ring all along: the side that looks against no direction of the pipe.
        cross = (along[1] * u[2] - along[2] * u[1], along[2] * u[0] - along[0] * u[2], along[0] * u[1] - along[1] * u[0])
        for j in range(ring):
            t = 2 * math.pi * j / ring
            r = RADIUS + rng.gauss(0, 0.02)
            points.append(add(add(centre, u, r * math.cos(t)), cross, r * math.sin(t)))
    write_ply(path, points, grid(len(stations), ring, True))


def hill(path, noise):
    rng = random.Random(7)
    side, count = 60.0, 81
    points = [(side * i / (count - 1), side * j / (count - 1),
               5 * math.sin(i / 16) * math.cos(j / 19) + rng.gauss(0, noise)) for i in range(count) for j in range(count)]
    write_ply(path, points, [(a, c, b) for a, b, c in grid(count, count, False)])


class FreeForm(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.folder = tempfile.TemporaryDirectory()
        cls.tube = os.path.join(cls.folder.name, "tube.ply")
        tube(cls.tube)
        cls.hill = os.path.join(cls.folder.name, "hill.ply")
        hill(cls.hill, 0.02)

    def path(self, name):
        return os.path.join(self.folder.name, name)

    def test_a_pipe_is_told_as_it_was_bent(self):
        table = self.path("bends.csv")
        line = ask("centreline", self.tube, "--at", f"30,0,{RADIUS}", "--out", table)
        for key in "points pieces radius u rms seconds".split():
            self.assertIn(key, line)
        self.assertAlmostEqual(line["radius"], RADIUS, delta=max(3 * line["u"]["radius"], 0.01))
        self.assertEqual([p["type"] for p in line["pieces"]], ["line", "arc", "line", "arc", "line"])
        for arc in line["pieces"][1::2]:
            self.assertAlmostEqual(arc["radius"], BEND, delta=0.3)
            for key in "centre axis a b".split():
                self.assertEqual(len(arc[key]), 3)
            self.assertAlmostEqual(math.dist(arc["a"], arc["centre"]), arc["radius"], places=6)
        with open(table, newline="") as file:
            rows = list(csv.DictReader(file))
        self.assertEqual(len(rows), 3)
        self.assertAlmostEqual(float(rows[0]["angle_deg"]), 90, delta=0.2)
        self.assertAlmostEqual(abs(float(rows[1]["turn_deg"])), 90, delta=0.3)
        self.assertAlmostEqual(float(rows[1]["straight_mm"]), STRAIGHT[1], delta=0.3)
        for name in ("line.igs", "line.step"):
            run("centreline", self.tube, "--at", f"30,0,{RADIUS}", "--out", self.path(name), "--quiet")
            self.assertGreater(os.path.getsize(self.path(name)), 500)
        away = run("centreline", self.tube, "--at", "-300,0,0", expect=1)
        self.assertIn("No surface of the scan lies near", away.stderr)
        run("centreline", self.tube, expect=2)

    def test_a_patch_lies_in_the_noise(self):
        out = self.path("hill.step")
        patch = ask("patch", self.hill, "--at", "30,30,0", "--out", out)
        for key in "poles degree rms max seconds".split():
            self.assertIn(key, patch)
        self.assertLess(patch["rms"], 0.024)
        self.assertFalse(patch["follows_noise"])
        deviation = ask("deviate", self.hill, out, "--tolerance", "0.1")
        self.assertLess(deviation["rms"], 0.024)
        stiff = ask("patch", self.hill, "--at", "30,30,0", "--tolerance", "0.5", "--out", out)
        self.assertLess(stiff["poles"]["u"], patch["poles"]["u"])
        # What the noise forbids is no success.
        fine = ask("patch", self.hill, "--at", "30,30,0", "--tolerance", "0.001", "--out", out, expect=1)
        self.assertFalse(fine["within"])
        run("patch", self.hill, "--out", out, expect=2)

    def test_pipe_patch_sweep_and_loft_stand_in_the_route(self):
        project = self.path("tube.lostline")
        ask("project", "new", project, self.tube)
        made = ask("project", "pipe", project, "--at", f"30,0,{RADIUS}", "--wall", "1.5")
        self.assertEqual(made["steps"][-1]["kind"], "pipe")
        radius = next(row for row in made["dimensions"] if row["kind"] == "radius")
        self.assertAlmostEqual(radius["reading"], RADIUS, delta=0.01)
        self.assertGreater(radius["u"], 0)
        replay = ask("replay", project)
        length = made["length"]
        self.assertAlmostEqual(replay["volume"], math.pi * (RADIUS ** 2 - (RADIUS - 1.5) ** 2) * length, delta=0.01 * replay["volume"])
        # A stretch of another radius is read along it; here there is none.
        plain = run("project", "pipe", project, "--onto", "pipe", "--at", f"30,0,{RADIUS}", expect=2)
        self.assertIn("own radius", plain.stderr)
        nowhere = run("project", "pipe", project, "--onto", "hose", "--at", f"30,0,{RADIUS}", expect=2)
        self.assertIn('no pipe "hose"', nowhere.stderr)
        # A drawing comes in as a sketch; sections of it are swept and lofted.
        dxf = self.path("square.dxf")
        with open(dxf, "w") as file:
            file.write("0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\n0\n90\n4\n70\n1\n" +
                       "".join(f"10\n{x}\n20\n{y}\n" for x, y in ((0, 0), (20, 0), (20, 12), (0, 12))) + "0\nENDSEC\n0\nEOF\n")
        for name, level in (("low", "0"), ("high", "25")):
            read = ask("project", "curves", project, dxf, "--plane", "xy", "--level", level, "--name", name)
            self.assertEqual(read["curves"], 4)
        before = replay["volume"]
        ask("project", "loft", project, "--sketches", "low", "high", "--ruled", "--as", "new")
        self.assertAlmostEqual(ask("replay", project)["volume"] - before, 20 * 12 * 25, delta=0.5)
        missing = run("project", "loft", project, "--sketches", "low", "nowhere", expect=2)
        self.assertIn("There is no sketch", missing.stderr)
        converted = self.path("square.igs")
        ask("convert", dxf, converted)
        self.assertGreater(os.path.getsize(converted), 500)

    def test_sections_lie_where_they_are_told_and_stretches_are_drawn_anew(self):
        project = self.path("cut.lostline")
        ask("project", "new", project, self.tube)
        cut = ask("project", "section", project, "--origin", "35,0,0", "--normal", "1,0,0", "--name", "across")
        self.assertEqual(cut["sketches"][-1]["entities"], 1)
        tilted = ask("project", "section", project, "--origin", "35,0,0", "--normal", "1,0,0.5", "--name", "tilted")
        self.assertEqual(tilted["sketches"][-1]["entities"], 1)
        # The oblique cut of a pipe is an ellipse; drawn anew as one it lies as near.
        with zipfile.ZipFile(project) as archive:
            manifest = json.loads(archive.read("manifest.json"))
        entity = next(s for s in manifest["sketches"] if s["name"] == "tilted")["entities"][0]
        self.assertEqual(entity["type"], "ellipse")
        drawn = ask("project", "redraw", project, "--sketch", "tilted", "--entities", str(entity["id"]), "--as", "ellipse")
        self.assertLess(drawn["rms_after"], 0.04)
        self.assertAlmostEqual(drawn["rms_after"], drawn["rms_before"], delta=0.003)
        # Followed from place to place round, the outer outline is drawn again.
        points = next(s for s in manifest["sketches"] if s["name"] == "across")
        circle = points["entities"][0]
        at = next(p for p in points["points"] if p["id"] == circle["centre"])
        centre = at["at"]
        places = [f"{centre[0] + circle['radius'] * math.cos(t)},{centre[1] + circle['radius'] * math.sin(t)}"
                  for t in (0.4 + 2 * math.pi * k / 5 for k in range(5))]
        along = ask("project", "draw-along", project, "--sketch", "across", "--at", *places, places[0])
        self.assertEqual([e["type"] for e in along["entities"]], ["arc"] * 5)
        self.assertLess(along["rms"], 0.04)
        lost = run("project", "draw-along", project, "--sketch", "across", "--at", places[0], "400,0", expect=2)
        self.assertIn("No section lies at 400,0", lost.stderr)
        wrong = run("project", "redraw", project, "--sketch", "across", "--entities", "11", "--as", "banana", expect=2)
        self.assertIn("There are: ", wrong.stderr)


if __name__ == "__main__":
    unittest.main()
