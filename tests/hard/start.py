#!/usr/bin/env python3
"""Hard starts of the window: without a screen, without OpenGL, with too old a one. Each ends in one sentence.

    xvfb-run -a -s "-noreset" tests/hard/start.py PROGRAM
"""

import os
import subprocess
import sys
import time

# Changes of the environment (None: taken out), what must be said, and whether it ends by itself: where there is a
# screen the sentence stands in a box until it is read.
CASES = [
    ("no screen", {"DISPLAY": None, "WAYLAND_DISPLAY": None}, "needs a screen", True),
    ("a screen that is not there", {"DISPLAY": ":9876"}, "needs a screen", True),
    ("OpenGL 2.1", {"MESA_GL_VERSION_OVERRIDE": "2.1"}, "only 2.1 is here", False),
    ("OpenGL 3.1", {"MESA_GL_VERSION_OVERRIDE": "3.1"}, "only 3.1 is here", False),
    ("no OpenGL", {"QT_XCB_GL_INTEGRATION": "none"}, "needs OpenGL 3.3", False),
]


def said(program, change, sentence, ends):
    environment = {k: v for k, v in {**os.environ, **change}.items() if v is not None}
    child = subprocess.Popen([program, "demo/saucer.goodcurve"], env=environment, stdin=subprocess.DEVNULL,
                             stdout=subprocess.DEVNULL, stderr=subprocess.PIPE)
    os.set_blocking(child.stderr.fileno(), False)
    heard, until = "", time.monotonic() + 20
    while time.monotonic() < until and (child.poll() is None if ends else sentence not in heard):
        heard += (child.stderr.read() or b"").decode("utf8", "replace")
        if child.poll() is not None and not ends:
            break
        time.sleep(0.02)
    code = child.poll()
    if code is None:
        child.kill()
        child.wait()
    heard += (child.stderr.read() or b"").decode("utf8", "replace")
    if sentence not in heard:
        return f"said {heard.strip()[:300]!r}"
    if ends and code != 1:
        return f"ended with {code}"
    if not ends and code is not None:
        return f"ended with {code} before the sentence was read"
    return None


def main():
    good = True
    for name, change, sentence, ends in CASES:
        wrong = said(sys.argv[1], change, sentence, ends)
        print(f"{name}: {wrong or 'told'}")
        good &= wrong is None
    return 0 if good else 1


if __name__ == "__main__":
    sys.exit(main())
