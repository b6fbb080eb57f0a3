"""Clouds meshed and scans of one part brought together on the command line."""
import json
import math
import os
import random
import subprocess
import tempfile
import unittest

CLI = os.environ["LOSTLINE_CLI"]


def run(*arguments, expect=0):
    done = subprocess.run([CLI, *arguments], capture_output=True, text=True, timeout=280)
    assert done.returncode == expect, (arguments, done.returncode, done.stderr)
    return done


def ask(*arguments, expect=0):
    return json.loads(run(*arguments, "--json", "--quiet", expect=expect).stdout)


def height(x, y):
    """A cast surface that is like itself nowhere."""
    return 5 * math.sin(x / 9 + y / 33) + 4 * math.cos(y / 7 - x / 23) + 0.002 * x * y


def turned(p, angle, shift):
    """About the direction (1, 2, 2) / 3, then shifted (Rodrigues)."""
    k = (1 / 3, 2 / 3, 2 / 3)
    c, s = math.cos(angle), math.sin(angle)
    d = sum(a * b for a, b in zip(k, p))
    cross = (k[1] * p[2] - k[2] * p[1], k[2] * p[0] - k[0] * p[2], k[0] * p[1] - k[1] * p[0])
    return tuple(p[i] * c + cross[i] * s + k[i] * d * (1 - c) + shift[i] for i in range(3))


def write_xyz(path, points):
    with open(path, "w") as file:
        file.write("# x y z\n")
        file.writelines("%.6f %.6f %.6f\n" % p for p in points)


def applied(rows, p):
    return tuple(sum(rows[i][k] * p[k] for k in range(3)) + rows[i][3] for i in range(3))


class Clouds(unittest.TestCase):
    def setUp(self):
        self.folder = tempfile.TemporaryDirectory()
        self.at = lambda name: os.path.join(self.folder.name, name)

    def tearDown(self):
        self.folder.cleanup()

    def points(self, low, high, noise, seed, step=0.8):
        rng = random.Random(seed)
        count = int((high - low) * 60 / step**2)
        for _ in range(count):
            x, y = rng.uniform(low, high), rng.uniform(0, 60)
            yield (x, y, height(x, y) + rng.gauss(0, noise))

    def test_a_cloud_becomes_a_mesh_that_every_command_reads(self):
        points = list(self.points(0, 90, 0.03, 1))
        write_xyz(self.at("cloud.xyz"), points)
        said = ask("mesh", self.at("cloud.xyz"), "--out", self.at("mesh.ply"))
        for key in ("triangles", "vertices", "open_edges", "seconds"):
            self.assertIn(key, said)
        self.assertEqual(said["points"], len(points))
        self.assertEqual(said["columns"], "x y z")
        self.assertEqual(said["non_manifold_edges"], 0)
        self.assertAlmostEqual(said["noise_sigma"], 0.03, delta=0.01)
        # One border round the surface, and as many triangles as a surface of these vertices has.
        self.assertLess(said["open_edges"], 0.1 * said["triangles"])
        self.assertAlmostEqual(said["triangles"] / said["vertices"], 2, delta=0.15)
        info = ask("info", self.at("mesh.ply"))
        self.assertEqual(info["triangles"], said["triangles"])
        # A cloud is read like a mesh, and written like one.
        self.assertEqual(ask("info", self.at("cloud.xyz"))["triangles"], said["triangles"])
        run("convert", self.at("cloud.xyz"), self.at("cloud.ply"), "--quiet")
        run("convert", self.at("cloud.ply"), self.at("again.xyz"), "--quiet")
        with open(self.at("again.xyz")) as file:
            back = [tuple(map(float, line.split())) for line in file]
        self.assertEqual(len(back), len(points))
        self.assertLess(max(abs(a - b) for p, q in zip(points, back) for a, b in zip(p, q)), 1e-5)

    def test_scans_come_together_and_are_merged(self):
        angle, shift = 2.2, (70.0, -12.0, 33.0)
        write_xyz(self.at("a.xyz"), self.points(0, 58, 0.02, 2))
        write_xyz(self.at("b.xyz"), [turned(p, angle, shift) for p in self.points(32, 90, 0.02, 3)])
        scans = []
        for name in "ab":
            ask("mesh", self.at(name + ".xyz"), "--out", self.at(name + ".ply"))
            scans.append(self.at(name + ".ply"))
        said = ask("register", *scans, "--out", self.at("merged.ply"))
        self.assertEqual(said["poses"][0], [[1, 0, 0, 0], [0, 1, 0, 0], [0, 0, 1, 0], [0, 0, 0, 1]])
        off = lambda rows: max(
            math.dist(applied(rows, turned((x, y, 0), angle, shift)), (x, y, 0))
            for x in (32, 61, 90) for y in (0, 30, 60))
        self.assertLess(off(said["poses"][1]), 0.06)
        self.assertEqual([(link["a"], link["b"]) for link in said["links"]], [(1, 2)])
        self.assertAlmostEqual(said["links"][0]["overlap"], 26 / 58, delta=0.12)
        self.assertLess(said["rms"], 0.03)
        self.assertTrue(said["settled"])
        self.assertGreater(said["u"][1]["offset"], 0)
        # Merged it is one surface over the whole, as even as one scan.
        merged = ask("info", self.at("merged.ply"))
        one = ask("info", scans[0])
        self.assertEqual(merged["components"], 1)
        self.assertAlmostEqual(merged["area"] / one["area"], 90 / 58, delta=0.08)
        self.assertAlmostEqual(merged["spacing"] / one["spacing"], 1, delta=0.25)
        # The same by places that both share, read off by a hundredth of the size.
        rng = random.Random(8)
        rough = lambda p: [c + rng.gauss(0, 0.5) for c in p]
        pairs = []
        for x, y in ((36, 5), (55, 10), (40, 55), (54, 50)):
            p = (x, y, height(x, y))
            pairs.append({"a": {"scan": 1, "at": rough(p)}, "b": {"scan": 2, "at": rough(turned(p, angle, shift))}})
        with open(self.at("pairs.json"), "w") as file:
            json.dump(pairs, file)
        by_pairs = ask("register", *scans, "--pairs", self.at("pairs.json"))
        self.assertLess(off(by_pairs["poses"][1]), 0.06)
        # How far they lie from each other, on the first; a scan without weight leaves no mark on the merged one.
        ask("register", *scans, "--drift", self.at("drift.ply"))
        self.assertEqual(ask("info", self.at("drift.ply"))["triangles"], one["triangles"])
        ask("register", *scans, "--weight", "2,0", "--out", self.at("alone.ply"))
        self.assertAlmostEqual(ask("info", self.at("alone.ply"))["area"] / one["area"], 1, delta=0.05)
        out = ("--out", self.at("not.ply"))
        self.assertIn("no scan 3", run("register", *scans, *out, "--weight", "3,1", expect=2).stderr)
        self.assertIn("No scan has a weight", run("register", *scans, *out, "--weight", "1,0", "--weight", "2,0",
                                                  expect=2).stderr)
        self.assertIn("--out", run("register", *scans, "--weight", "2,0.5", expect=2).stderr)
        for cut in ("2,0", "2,1.5", "2,1x", "2"):
            self.assertIn("--cut 2,3", run("register", *scans, "--cut", cut, expect=2).stderr)
        # The same into a project: the merged scan is worked on, its parts stay beside it.
        ask("project", "new", self.at("p.lostline"), scans[0])
        in_project = ask("project", "join", self.at("p.lostline"), scans[1], "--pairs", self.at("pairs.json"))
        self.assertLess(off(in_project["poses"][1]), 0.06)
        self.assertGreater(ask("project", "show", self.at("p.lostline"))["triangles"], 1.05 * one["triangles"])

    def test_balls_are_places_that_scans_share(self):
        # Three balls of 12 beside each other, from above, without anything else in common.
        centres = [(0, 0, 0), (60, 5, 4), (22, 48, -6)]
        rng = random.Random(9)

        def ball(centre):
            points = []
            for i in range(1, 26):
                for j in range(60):
                    polar, turn = 1.7 * i / 25, 2 * math.pi * j / 60
                    r = 12 + rng.gauss(0, 0.02)
                    points.append(tuple(c + r * d for c, d in zip(centre, (
                        math.sin(polar) * math.cos(turn), math.sin(polar) * math.sin(turn), math.cos(polar)))))
            return points

        angle, shift = 0.8, (300.0, 20.0, -5.0)
        write_xyz(self.at("a.xyz"), [p for c in centres for p in ball(c)])
        write_xyz(self.at("b.xyz"), [turned(p, angle, shift) for c in centres for p in ball(c)])
        on = lambda c, x, y: (c[0] + 12 * x, c[1] + 12 * y, c[2] + 12 * math.sqrt(1 - x * x - y * y))
        pairs = [{"a": {"scan": 1, "at": on(c, 0.3, 0.1), "ball": True},
                  "b": {"scan": 2, "at": turned(on(c, -0.2, 0.4), angle, shift), "ball": True}} for c in centres]
        with open(self.at("pairs.json"), "w") as file:
            json.dump(pairs, file)
        said = ask("register", self.at("a.xyz"), self.at("b.xyz"), "--pairs", self.at("pairs.json"))
        for c in centres:
            self.assertLess(math.dist(applied(said["poses"][1], turned(c, angle, shift)), c), 0.02)

    def test_round_holes_are_places_that_scans_share(self):
        # A flat plate with holes of radius 7 and 12, seen twice: nothing else holds it in its plane.
        centres, angle, shift = [(20, 15), (70, 20), (30, 50)], 2.1, (150.0, -20.0, 8.0)
        radius = lambda c: 12 if c == centres[2] else 7

        def plate(seed):
            rng = random.Random(seed)
            x0, y0 = rng.random(), rng.random()
            return [(x + x0 + rng.gauss(0, 0.05), y + y0 + rng.gauss(0, 0.05), rng.gauss(0, 0.02)) for x in range(95)
                    for y in range(70) if all(math.dist((x + x0, y + y0), c) > radius(c) for c in centres)]

        write_xyz(self.at("plate.xyz"), plate(1))
        write_xyz(self.at("again.xyz"), [turned(p, angle, shift) for p in plate(2)])
        beside = lambda c, a: (c[0] + (radius(c) + 1.5) * math.cos(a), c[1] + (radius(c) + 1.5) * math.sin(a), 0)
        pairs = [{"a": {"scan": 1, "at": beside(c, 0.4), "circle": True},
                  "b": {"scan": 2, "at": turned(beside(c, 3.0), angle, shift), "circle": True}} for c in centres]
        with open(self.at("pairs.json"), "w") as file:
            json.dump(pairs, file)
        said = ask("register", self.at("plate.xyz"), self.at("again.xyz"), "--pairs", self.at("pairs.json"))
        for c in centres:
            off = math.dist(applied(said["poses"][1], turned((*c, 0), angle, shift)), (*c, 0))
            self.assertLess(off, 0.25)
            self.assertLess(off, said["u"][1]["offset"])
        # The rims alone hold it, each told to a part of a spacing, and that is said.
        self.assertTrue(any("tells little more" in doubt for doubt in said["doubts"]))
        # Beside nothing round it says so, with the pair and the scan.
        pairs[1]["b"]["at"] = turned((90, 65, 0), angle, shift)
        with open(self.at("pairs.json"), "w") as file:
            json.dump(pairs, file)
        done = run("register", self.at("plate.xyz"), self.at("again.xyz"), "--pairs", self.at("pairs.json"), expect=1)
        self.assertIn("Pair 2, scan 2", done.stderr)
        # Nor can two holes of another size be one.
        pairs[1]["b"]["at"] = turned(beside(centres[2], 3.0), angle, shift)
        with open(self.at("pairs.json"), "w") as file:
            json.dump(pairs, file)
        done = run("register", self.at("plate.xyz"), self.at("again.xyz"), "--pairs", self.at("pairs.json"), expect=2)
        self.assertIn("Pair 2: the two are not the same", done.stderr)

    def test_a_project_meshes_its_cloud_anew_and_fits_what_a_strip_does_not_tell(self):
        # A half cylinder of 20 about an axis through (3, 4), and on it a strip of a cone, 10 degrees wide.
        rng = random.Random(12)
        points, strip = [], math.radians(10)
        for _ in range(14000):
            turn, z = rng.uniform(0, math.pi), rng.uniform(0, 25)
            r = 20 + rng.gauss(0, 0.02)
            points.append((3 + r * math.cos(turn), 4 + r * math.sin(turn), z))
        half = math.radians(35)
        for _ in range(1400):
            turn, up = rng.uniform(1.2, 1.2 + strip), rng.uniform(0, 12)
            off = rng.gauss(0, 0.02)
            r, z = 20 + up * math.sin(half) + off * math.cos(half), 25 + up * math.cos(half) - off * math.sin(half)
            points.append((3 + r * math.cos(turn), 4 + r * math.sin(turn), z))
        write_xyz(self.at("turned.xyz"), points)
        p = self.at("turned.lostline")
        ask("project", "new", p, self.at("turned.xyz"))
        fine = ask("project", "show", p)["triangles"]
        said = ask("project", "mesh", p, "--spacing", "0.9", "--smooth", "4")
        self.assertEqual(said["points"], len(points))
        self.assertEqual(said["columns"], "x y z")
        self.assertLess(said["triangles"], 0.8 * fine)
        on = lambda r, turn, z: "%.3f,%.3f,%.3f" % (3 + r * math.cos(turn), 4 + r * math.sin(turn), z)
        bore = ask("project", "fit", p, "--kind", "cylinder", "--at", on(20, 2.5, 10), "--grow", "8", "--name", "shell")
        self.assertAlmostEqual(bore["fit"]["params"]["radius"], 20, delta=0.02)
        place = on(20 + 6 * math.sin(half), 1.2 + strip / 2, 25 + 6 * math.cos(half))
        cone = ask("project", "fit", p, "--kind", "cone", "--at", place, "--grow", "6", "--held", "coaxial",
                   "--of", "shell")["fit"]
        self.assertAlmostEqual(cone["params"]["half_angle_deg"], 35, delta=max(0.3, cone["u"]["half_angle_deg"]))
        self.assertLess(cone["u"]["half_angle_deg"], 0.5)
        self.assertAlmostEqual(cone["params"]["apex"][0], bore["fit"]["params"]["point"][0], delta=0.05)
        self.assertIn("coax", cone["relation"]["type"].replace("on one axis with", "coaxial"))
        self.assertEqual(ask("project", "show", p)["fits"], 2)
        for wrong, why in ((("--kind", "cube", "--at", place), "cannot be fitted"),
                           (("--kind", "cone"), "--region or --at"),
                           (("--kind", "cone", "--at", place), "--grow"),
                           (("--kind", "cone", "--region", "7"), "no region 7"),
                           (("--kind", "cone", "--at", place, "--grow", "6", "--held", "coaxial"), "--of"),
                           (("--kind", "cone", "--at", place, "--grow", "6", "--held", "coaxial", "--of", "x"), "shell")):
            self.assertIn(why, run("project", "fit", p, *wrong, expect=2).stderr)
        # What was no cloud, or whose file is gone, says so.
        os.remove(self.at("turned.xyz"))
        self.assertIn("Put the file back", run("project", "mesh", p, expect=2).stderr)

    def test_bad_input_is_refused_with_a_reason(self):
        write_xyz(self.at("few.xyz"), [(0, 0, 0), (1, 0, 0), (0, 1, 0)])
        self.assertIn("four points", run("mesh", self.at("few.xyz"), "--out", self.at("m.ply"), expect=2).stderr)
        write_xyz(self.at("line.xyz"), [(0.1 * i, 0, 0) for i in range(500)])
        self.assertIn("no surface", run("mesh", self.at("line.xyz"), "--out", self.at("m.ply"), expect=1).stderr)
        run("register", self.at("few.xyz"), expect=2)
        write_xyz(self.at("a.xyz"), self.points(0, 30, 0.02, 4))
        with open(self.at("pairs.json"), "w") as file:
            file.write('[{"a": {"scan": 1, "at": [0, 0, 0]}, "b": {"scan": 7, "at": [0, 0, 0]}}]')
        self.assertIn("scans 1 and 7", run("register", self.at("a.xyz"), self.at("a.xyz"), "--pairs",
                                           self.at("pairs.json"), expect=2).stderr)
        with open(self.at("pairs.json"), "w") as file:
            file.write("[1, 2]")
        self.assertIn("pairs", run("register", self.at("a.xyz"), self.at("a.xyz"), "--pairs", self.at("pairs.json"),
                                   expect=2).stderr)


if __name__ == "__main__":
    unittest.main()
