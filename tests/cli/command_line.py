"""What the tests of the command line share."""
import json
import os
import subprocess

CLI = os.environ["LOSTLINE_CLI"]


def run(*arguments, expect=0):
    done = subprocess.run([CLI, *arguments], capture_output=True, text=True, timeout=280)
    assert done.returncode == expect, (arguments, done.returncode, done.stderr)
    return done


def ask(*arguments, expect=0):
    return json.loads(run(*arguments, "--json", "--quiet", expect=expect).stdout)
