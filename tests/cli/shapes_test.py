"""Free bodies, mended scans and files of several sketches on the command line, on a scan that the test makes."""
import math
import os
import pathlib
import random
import tempfile
import unittest

from command_line import ask, run

RINGS, ROUND = 60, 120


def lump(lift, turn):
    """A place on a lump whose distance from its middle is told by the direction."""
    d = (math.cos(lift) * math.cos(turn), math.cos(lift) * math.sin(turn), math.sin(lift))
    r = 24 * (1 + 0.12 * math.sin(3 * d[0] + 1) * math.cos(2 * d[1]))
    return r * d[0], r * d[1], 1.5 * r * d[2]


def write_lump(path, pulled=None, noise=0.01):
    chance = random.Random(8)
    points = [lump(-math.pi / 2, 0)]
    points += [lump(math.pi * (i / RINGS - 0.5), 2 * math.pi * j / ROUND) for i in range(1, RINGS) for j in range(ROUND)]
    points.append(lump(math.pi / 2, 0))
    scatter = lambda p: tuple(c * (1 + chance.gauss(0, noise) / math.sqrt(sum(x * x for x in p))) for c in p)
    points = [scatter(p) for p in points]
    if pulled is not None:
        points[pulled] = tuple(-1.3 * c for c in points[pulled])
    ring = lambda i, j: 1 + (i - 1) * ROUND + j % ROUND
    triangles = []
    for j in range(ROUND):
        triangles += [(0, ring(1, j + 1), ring(1, j)), (len(points) - 1, ring(RINGS - 1, j), ring(RINGS - 1, j + 1))]
        for i in range(1, RINGS - 1):
            triangles += [(ring(i, j), ring(i, j + 1), ring(i + 1, j + 1)), (ring(i, j), ring(i + 1, j + 1), ring(i + 1, j))]
    with open(path, "w") as file:
        file.write(f"ply\nformat ascii 1.0\nelement vertex {len(points)}\nproperty float x\nproperty float y\nproperty float z\n"
                   f"element face {len(triangles)}\nproperty list uchar int vertex_indices\nend_header\n")
        file.writelines("%.7f %.7f %.7f\n" % p for p in points)
        file.writelines("3 %d %d %d\n" % t for t in triangles)
    volume = 0.0
    for t in triangles:
        a, b, c = (points[k] for k in t)
        volume += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6
    return volume


class Shapes(unittest.TestCase):
    def setUp(self):
        self.folder = tempfile.TemporaryDirectory()
        self.addCleanup(self.folder.cleanup)

    def path(self, name):
        return os.path.join(self.folder.name, name)

    def test_a_free_body_follows_a_closed_scan(self):
        scan, model = self.path("lump.ply"), self.path("lump.step")
        volume = write_lump(scan)
        made = ask("free-body", scan, "--out", model)
        self.assertTrue(made["valid"])
        self.assertLess(made["crease_deg"], 1)
        self.assertLess(made["rms"], 1.3 * made["noise_sigma"])
        self.assertAlmostEqual(made["volume"] / volume, 1, delta=0.002)
        # The model lies on the scan, told by another command.
        self.assertLess(ask("deviate", scan, model)["rms"], 1.3 * made["noise_sigma"])
        fine = ask("free-body", scan, "--patches", "60", "--spans", "4", "--out", model)
        self.assertGreater(fine["patches"], made["patches"])
        # As a step of a project.
        project = self.path("lump.lostline")
        ask("project", "new", project, scan)
        said = ask("project", "free-body", project)
        self.assertEqual(said["patches"], made["patches"])
        replay = ask("replay", project)
        self.assertTrue(replay["valid"])
        self.assertAlmostEqual(replay["volume"] / volume, 1, delta=0.002)

    def test_an_open_scan_is_refused_with_what_to_do(self):
        scan = self.path("open.ply")
        write_lump(scan)
        run("clean", scan, "--keep-box=-40,-40,-40,40,40,20", "--out", self.path("cut.ply"))
        said = run("free-body", self.path("cut.ply"), "--out", self.path("x.step"), expect=2).stderr
        self.assertIn("open", said)
        self.assertIn("Clean", said)
        self.assertFalse(os.path.exists(self.path("x.step")))

    def test_crossings_are_counted_and_mended(self):
        scan, mended = self.path("hurt.ply"), self.path("mended.ply")
        write_lump(scan, pulled=1 + 20 * ROUND + 5)
        self.assertGreater(ask("info", scan, "--defects")["crossing_triangles"], 5)
        acts = ask("clean", scan, "--mend", "--out", mended)["acts"]
        self.assertEqual([a["act"] for a in acts], ["mend"])
        after = ask("info", mended, "--defects")
        self.assertEqual(after["crossing_triangles"], 0)
        self.assertEqual(after["open_edges"], 0)
        even = self.path("even.ply")
        ask("clean", mended, "--remesh", "2.5", "--out", even)
        # Shorter than 4/5 edges are collapsed, longer than 4/3 split (Botsch and Kobbelt 2004).
        spacing = ask("info", even)["spacing"]
        self.assertGreater(spacing, 2.5 * 4 / 5)
        self.assertLess(spacing, 2.5 * 4 / 3)

    def test_several_sketches_and_the_datum_go_into_one_file(self):
        scan, project, out = self.path("lump.ply"), self.path("p.lostline"), self.path("all.step")
        write_lump(scan)
        ask("project", "new", project, scan)
        for plane, name in (("xy", "waist"), ("xz", "side")):
            ask("project", "section", project, "--plane", plane, "--name", name)
        said = ask("project", "sketch", project, "--all", "--reference", "--out", out)
        self.assertEqual(said["sketches"], ["waist", "side"])
        self.assertIn("xy plane", said["reference"])
        text = pathlib.Path(out).read_text()
        for name in ("waist", "side", "origin", "z axis"):
            self.assertIn(f"PRODUCT('{name}", text)
        one = ask("project", "sketch", project, "--sketch", "side", "--out", self.path("side.dxf"))
        self.assertEqual(one["sketch"], "side")
        self.assertIn("no sketch", run("project", "sketch", project, "--sketch", "nose", "--out", out, expect=2).stderr)


if __name__ == "__main__":
    unittest.main()
