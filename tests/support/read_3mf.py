"""Reads a 3MF file with the standard library alone: unit, object name, and the volume of its triangles.

Usage: read_3mf.py FILE NAME,NAME VOLUME_MM3 [COLOUR,COLOUR]   (exit status 1 when something is not as it should be)
"""
import sys
import xml.etree.ElementTree as xml
import zipfile

path, names, wanted = sys.argv[1], sys.argv[2].split(","), float(sys.argv[3])
colours = sys.argv[4].split(",") if len(sys.argv) > 4 else None
space = "{http://schemas.microsoft.com/3dmanufacturing/core/2015/02}"
with zipfile.ZipFile(path) as archive:
    model = [n for n in archive.namelist() if n.endswith(".model")][0]
    root = xml.fromstring(archive.read(model))
if root.get("unit") != "millimeter":
    sys.exit("unit: " + str(root.get("unit")))
total = 0.0
found, seen = [], []
materials = {
    group.get("id"): [m.get("displaycolor")[:7].upper() for m in group.iter(space + "base")]
    for group in root.iter(space + "basematerials")
}
for thing in root.iter(space + "object"):
    found.append(thing.get("name"))
    if colours:
        seen.append(materials[thing.get("pid")][int(thing.get("pindex"))])
    points = [tuple(float(v.get(k)) for k in "xyz") for v in thing.iter(space + "vertex")]
    for t in thing.iter(space + "triangle"):
        a, b, c = (points[int(t.get(k))] for k in ("v1", "v2", "v3"))
        total += (a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6
if found != names:
    sys.exit(f"names: {found}")
if colours and seen != colours:
    sys.exit(f"colours: {seen}")
if abs(total - wanted) > 3e-3 * wanted:
    sys.exit(f"volume: {total} instead of {wanted}")
