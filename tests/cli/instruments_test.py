"""The stand-in scanner and touch probe over a local socket, on the command line."""
import os
import pathlib
import subprocess
import tempfile
import time
import unittest

from command_line import CLI, ask, run

DEMO = os.environ["LOSTLINE_DEMO_DIR"]
MODEL = os.path.join(DEMO, "truth", "pedestal.step")


class Instruments(unittest.TestCase):
    def setUp(self):
        self.folder = tempfile.TemporaryDirectory()
        self.started = []

    def tearDown(self):
        for process in self.started:
            process.terminate()
            process.wait()
        self.folder.cleanup()

    def path(self, name):
        return os.path.join(self.folder.name, name)

    def stand_in(self, kind, *options):
        socket = self.path(f"socket{len(self.started)}")
        self.started.append(subprocess.Popen([CLI, "stand-in", kind, MODEL, "--socket", socket, "--quiet", *options],
                                             stdout=subprocess.DEVNULL))
        for _ in range(600):
            if os.path.exists(socket):
                return socket
            time.sleep(0.1)
        self.fail("the stand-in does not wait")

    def test_a_scan_is_received_and_its_table_cut_away(self):
        socket = self.stand_in("scanner", "--views", "8", "--spacing", "1.2", "--seed", "5")
        mesh, cloud = self.path("part.ply"), self.path("points.ply")
        got = ask("receive", "--socket", socket, "--out", mesh, "--cloud", cloud)
        self.assertEqual(len(got["views"]), 8)
        self.assertAlmostEqual(got["noise_sigma"], 0.02, delta=0.008)
        self.assertGreater(got["table"]["normal"][2], 0.9999)
        part = ask("info", mesh)
        # The underside lay on the table: open below, and nothing of the table is left.
        self.assertGreater(part["open_edges"], 100)
        self.assertGreater(part["bbox"]["min"][2], 0.05)
        self.assertAlmostEqual(part["bbox"]["max"][2], 84, delta=0.1)
        # It is the part that was scanned.
        placed = ask("align", mesh, "--to", MODEL)
        self.assertLess(placed["rms"], 0.02)
        # The same cut from the cloud meshed by itself, less a row of triangles along it; and by a box.
        ask("mesh", cloud, "--out", self.path("all.ply"))
        cut = ask("clean", self.path("all.ply"), "--table", "--out", self.path("cut.ply"))
        self.assertEqual(cut["acts"][0]["act"], "table")
        self.assertAlmostEqual(ask("info", self.path("cut.ply"))["area"], part["area"], delta=0.04 * part["area"])
        ask("clean", self.path("all.ply"), "--keep-box", "-200,-200,20,200,200,100", "--out", self.path("top.ply"))
        self.assertGreaterEqual(ask("info", self.path("top.ply"))["bbox"]["min"][2], 20)
        self.assertIn("no table", run("clean", self.path("top.ply"), "--table", "--out", self.path("x.ply"), expect=1).stderr)
        self.assertIn("no box", run("clean", mesh, "--keep-box", "1,2,3", "--out", self.path("x.ply"), expect=2).stderr)
        # A scanner is no probe.
        self.assertIn("not a probe", run("probe", "--socket", socket, expect=2).stderr)

    def test_a_part_is_probed_beside_its_scan(self):
        socket = self.stand_in("probe", "--seed", "3", "--noise", "0.001")
        probed = ask("probe", "--socket", socket, "--out", self.path("places.xyz"))
        self.assertEqual(probed["tip"], 3)
        bores = [f for f in probed["features"] if f["type"] == "cylinder" and f["hollow"]]
        self.assertTrue(any(abs(2 * f["params"]["radius"] - 42) < 0.01 for f in bores))
        for f in probed["features"]:
            self.assertLess(f["rms"], 0.003, f["name"])
        count = sum(f["points"] for f in probed["features"])
        self.assertEqual(len(pathlib.Path(self.path("places.xyz")).read_text().splitlines()), count)
        # In one job with the scan: matched without help, both readings in the Ledger.
        project = self.path("job.lostline")
        ask("project", "new", project, os.path.join(DEMO, "pedestal.stl"))
        self.assertIn("regions", run("project", "probe", project, "--socket", socket, expect=1).stderr)
        ask("project", "survey", project)
        placed = ask("project", "probe", project, "--socket", socket)
        self.assertLess(placed["rms"], 0.1)
        self.assertGreaterEqual(placed["fits"], len(probed["features"]))
        rows = [r for r in placed["dimensions"] if "probed cylinder" in r["name"]]
        self.assertGreaterEqual(len(rows), len(bores))
        bore = min(rows, key=lambda r: abs(r["reading"] - 42))
        self.assertLess(abs(bore["reading"] - 42), 0.01)
        self.assertEqual(bore["source"], "touch probe")
        # The scan's reading stands beside it, with its own U and how far they agree: the scanned
        # specimen's bore is worn, its boss is not.
        beside = bore["others"][0]
        self.assertEqual(beside["instrument"], "scan")
        self.assertGreater(beside["u"], bore["u"])
        self.assertGreater(beside["en"], 2)
        boss = next(r for r in placed["dimensions"] if "probed cone" in r["name"])
        self.assertLess(boss["others"][0]["en"], 1.5)

    def test_what_is_missing_is_said(self):
        self.assertIn("No instrument answers", run("receive", "--socket", self.path("none"), "--out",
                                                   self.path("x.ply"), expect=2).stderr)
        self.assertIn("Say what to write", run("receive", "--socket", self.path("none"), expect=2).stderr)
        self.assertEqual(run("stand-in", "scanner", MODEL, "--socket", self.path("s"), "--views", "0", expect=2).returncode, 2)
        kept = pathlib.Path(self.path("kept.txt"))
        kept.write_text("mine")
        self.assertIn("is a file", run("stand-in", "probe", MODEL, "--socket", str(kept), expect=2).stderr)
        self.assertEqual(kept.read_text(), "mine")


if __name__ == "__main__":
    unittest.main(verbosity=2)
