#!/usr/bin/env python3
"""Hard days of the command line: parts and STEP attachments that are garbled by the thousand, devices that are full.

    tests/hard/cli.py PROGRAM [--parts N] [--steps N] [--seed S]

Whatever it is given, the program ends by itself with 0, 1 or 2, is silent for no more than ten seconds, stays within
two gigabytes, and says a sentence where it is 2. Prints the figures; ends with 1 when anything was otherwise.
"""

import argparse
import json
import os
import random
import resource
import subprocess
import sys
import tempfile
import time

SILENT_SECONDS = 10  # what the program's own guard takes for a hang here: it ends it, with a sentence
MOST_SECONDS = 40  # of work that shows signs of life
MOST_KILOBYTES = 2 << 20


def ran(arguments, folder, out=None):
    """Runs it: exit code (negative: a signal, None: too long), seconds, kilobytes, what it said on both streams."""
    with open(os.path.join(folder, "out"), "w+b") as told, open(os.path.join(folder, "err"), "w+b") as erred:
        started = time.monotonic()
        child = subprocess.Popen(arguments, stdout=out or told, stderr=erred, stdin=subprocess.DEVNULL)
        code, usage = None, None
        while time.monotonic() - started < 2 * MOST_SECONDS:
            pid, status, usage = os.wait4(child.pid, os.WNOHANG)
            if pid:
                code = os.waitstatus_to_exitcode(status)
                break
            time.sleep(0.002)
        if code is None:
            child.kill()
            _, _, usage = os.wait4(child.pid, 0)
        seconds = time.monotonic() - started
        told.seek(0), erred.seek(0)
        # The kernel works in a process of the program's own: its size is that of the largest that was waited for.
        return code, seconds, usage.ru_maxrss, told.read().decode("utf8", "replace"), erred.read().decode("utf8", "replace")


def garbled(random, data):
    """One of the ways in which files break or are edited by hand."""
    data = bytearray(data)
    way = random.choice((0, 1, 2, 3, 4, 4, 4, 5, 5, 5, 5, 6, 6))  # most still read as parts
    if way == 0:  # cut off
        return bytes(data[: random.randrange(len(data))])
    if way == 1:  # a piece is lost
        at = random.randrange(len(data))
        del data[at : at + 1 + random.randrange(300)]
        return bytes(data)
    if way == 2:  # bytes are flipped
        for _ in range(1 + random.randrange(20)):
            data[random.randrange(len(data))] = random.randrange(256)
        return bytes(data)
    if way == 3:  # a piece stands twice
        at, n = random.randrange(len(data)), 1 + random.randrange(300)
        return bytes(data[:at] + data[at : at + n] + data[at:])
    if way == 4:  # digits are others: sizes, ids, counts
        for i in [i for i, c in enumerate(data) if 48 <= c <= 57]:
            if random.random() < 0.05:
                data[i] = 48 + random.randrange(10)
        return bytes(data)
    if way == 5:  # numbers that nobody meant
        text = data.decode("utf8", "replace")
        marks = [i for i, c in enumerate(text) if c.isdigit()]
        at = random.choice(marks)
        huge = random.choice(["-1", "0", "1e9", "1e308", "1e-300", "99999999999", "nan", "(((((", "1/0", "wall", "3 in"])
        return (text[:at] + huge + text[at + 1 :]).encode()
    pairs = [(b"mm", b"m"), (b"inward", b"outward"), (b"\xc2\xb0", b""), (b'"id": 2', b'"id": 3'), (b"step 1", b"step 9"),
             (b"step 2", b"step 1"), (b"pot", b"top"), (b"true", b"1"), (b"[", b"{"), (b"revolve", b"shell")]
    this, that = random.choice(pairs)
    return bytes(data).replace(this, that, 1 + random.randrange(5))


def told_well(code, out, err):
    if code not in (0, 1, 2):
        return False
    if code == 2 and len(err.strip()) < 20:
        try:  # a body with faults is told in what is asked for
            return bool(json.loads(out))
        except ValueError:
            return False
    return True


class Figures:
    def __init__(self, what):
        self.what, self.runs, self.bad, self.codes, self.seconds, self.kilobytes = what, 0, [], {}, 0, 0

    def take(self, name, result, keep):
        code, seconds, kilobytes, out, err = result
        self.runs += 1
        self.codes[code] = self.codes.get(code, 0) + 1
        self.seconds, self.kilobytes = max(self.seconds, seconds), max(self.kilobytes, kilobytes)
        if not told_well(code, out, err) or seconds > MOST_SECONDS or kilobytes > MOST_KILOBYTES:
            keep()
            self.bad.append(f"{name}: code {code}, {seconds:.1f} s, {kilobytes >> 10} MB: {err.strip()[:200]}")

    def tell(self):
        codes = ", ".join(f"{n} with {c}" for c, n in sorted(self.codes.items(), key=lambda x: str(x[0])))
        print(f"{self.what}: {self.runs} runs ({codes}); at most {self.seconds:.1f} s, {self.kilobytes >> 10} MB; "
              f"{len(self.bad)} otherwise than they should")
        for line in self.bad:
            print("  " + line)
        return not self.bad


def parts(program, count, seed, folder, keep):
    figures = Figures("garbled parts")
    originals = sorted(f for f in os.listdir("demo") if f.endswith(".goodcurve"))
    chance = random.Random(seed)
    for k in range(count):
        name = originals[k % len(originals)]
        with open(os.path.join("demo", name), "rb") as f:
            data = garbled(chance, f.read())
        path = os.path.join(folder, "part.goodcurve")
        with open(path, "wb") as f:
            f.write(data)
        verb = ("check", "measure")[k % 2]
        figures.take(f"{name} {k}", ran([program, verb, path, "--json"], folder), lambda: keep(f"part-{seed}-{k}.goodcurve", data))
    return figures.tell()


def steps(program, count, seed, folder, keep):
    figures = Figures("garbled STEP attachments")
    whole = os.path.join(folder, "whole.step")
    made = ran([program, "export", "demo/herb-pot.goodcurve", "--to", whole], folder)
    if made[0] != 0:
        print("no STEP file to garble:", made[4])
        return False
    with open(whole, "rb") as f:
        step = f.read()
    chance = random.Random(seed + 1)
    for k in range(count):
        content = garbled(chance, step).decode("utf8", "replace")
        part = {"format": "good-curve part", "version": 1, "name": "imported", "values": [], "bookmark": -1, "next_id": 2,
                "attachments": [{"name": "in.step", "content": content}],
                "steps": [{"id": 1, "kind": "import", "file": "in.step", "body": "imported"}]}
        path = os.path.join(folder, "part.goodcurve")
        with open(path, "w") as f:
            json.dump(part, f)
        figures.take(f"step {k}", ran([program, "measure", path, "--json"], folder),
                     lambda: keep(f"step-{seed}-{k}.step", content.encode()))
    return figures.tell()


def full_devices(program, folder):
    """What could not be written is no success."""
    good = True
    with open("/dev/full", "wb") as full:
        for arguments in (["check", "demo/saucer.goodcurve", "--json"], ["measure", "demo/saucer.goodcurve"]):
            code, _, _, _, err = ran([program, *arguments], folder, out=full)
            if code != 2 or len(err) < 20:
                print(f"to a full device: {arguments[0]} ends with {code}: {err}")
                good = False
    for ending in ("stl", "3mf", "step"):
        path = os.path.join(folder, "o." + ending)
        # A file may be no larger than this, as if the disk ended there.
        limited = f"ulimit -f 8; exec {program} export demo/herb-pot.goodcurve --to {path}"
        code, _, _, _, err = ran(["bash", "-c", limited], folder)
        if code != 2 or len(err) < 20 or os.path.exists(path):
            print(f"export of .{ending} to a full disk: code {code}, there: {os.path.exists(path)}: {err}")
            good = False
    print("full devices:", "told" if good else "NOT told")
    return good


def main():
    arguments = argparse.ArgumentParser()
    arguments.add_argument("program")
    arguments.add_argument("--parts", type=int, default=40)
    arguments.add_argument("--steps", type=int, default=6)
    arguments.add_argument("--seed", type=int, default=1)
    arguments.add_argument("--keep", help="a folder for the files that went wrong")
    a = arguments.parse_args()
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    os.environ["GOOD_CURVE_CLI_SECONDS"] = str(SILENT_SECONDS)

    def keep(name, data):
        if a.keep:
            os.makedirs(a.keep, exist_ok=True)
            with open(os.path.join(a.keep, name), "wb") as f:
                f.write(data)

    with tempfile.TemporaryDirectory() as folder:
        results = [full_devices(a.program, folder), parts(a.program, a.parts, a.seed, folder, keep),
                   steps(a.program, a.steps, a.seed, folder, keep)]
    return 0 if all(results) else 1


if __name__ == "__main__":
    sys.exit(main())
