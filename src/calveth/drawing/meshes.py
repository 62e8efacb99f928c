"""Pieces as closed meshes for STL and 3MF, in millimetres, where they are in the hive.

Boards are whole: openings are not cut out of a mesh, drawings and templates have them.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from math import cos, pi, sin
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from calveth.core.solids.outlines import signed_area
from calveth.core.solids.parts import HiveSolids
from calveth.core.solids.shapes import Cuboid, Ring, SectionMap, Shape
from calveth.core.workshop.piece import Piece
from calveth.store.atomic_write import atomic_write
from calveth.store.errors import FileError
from calveth.texts.build import piece_name

_MM, _ROUND = 1000.0, 48
FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]


@dataclass(frozen=True, slots=True, eq=False)
class Mesh:
    """A closed body: points [n, 3] in mm and triangles [m, 3] that look outwards."""

    name: str
    part: str
    points: FloatArray
    triangles: IntArray

    @property
    def volume_mm3(self) -> float:
        """Volume by the divergence theorem [mm³]."""
        a, b, c = (self.points[self.triangles[:, k]] for k in range(3))
        return float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6)


def mesh_of(name: str, part: str, shape: Shape, bend: SectionMap | None) -> Mesh:
    """Return the mesh of a shape of a hive with this bend."""
    if isinstance(shape, Ring):
        return _trunk(name, part, shape)
    return _prism(name, part, shape, bend)


def _prism(name: str, part: str, box: Cuboid, bend: SectionMap | None) -> Mesh:
    """Return the outline of a block in y and z, drawn out along x."""
    if bend is None:
        outline = np.array([[box.y0, box.z0], [box.y1, box.z0], [box.y1, box.z1], [box.y0, box.z1]])
    else:
        outline = bend.outline_m(box.y0, box.y1, box.z0, box.z1)
    if signed_area(outline.tolist()) < 0:
        outline = outline[::-1]
    n = len(outline)
    points = np.array([[x, y, z] for x in (box.x0, box.x1) for y, z in outline]) * _MM
    # Seen along x from outside: the near cap turns one way, the far one the other.
    caps = [(a, b, c) for a, b, c in _ears(outline)]
    triangles = [(a, c, b) for a, b, c in caps]
    triangles += [(a + n, b + n, c + n) for a, b, c in caps]
    for k in range(n):
        j = (k + 1) % n
        triangles += [(k, j, n + j), (k, n + j, n + k)]
    return Mesh(name, part, points, np.array(triangles))


def _ears(outline: FloatArray) -> list[tuple[int, int, int]]:
    """Return the triangles of a simple outline that turns left, by cutting off ears."""
    left = list(range(len(outline)))
    ears = []
    while len(left) > 3:
        for k in range(len(left)):
            a, b, c = left[k - 1], left[k], left[(k + 1) % len(left)]
            if _is_ear(outline, a, b, c, left):
                ears.append((a, b, c))
                left.pop(k)
                break
        else:
            # A corner on a straight line: it is no ear, and nothing is lost with it.
            flat = min(
                range(len(left)),
                key=lambda k: abs(_cross(outline, left[k - 1], left[k], left[(k + 1) % len(left)])),
            )
            ears.append((left[flat - 1], left[flat], left[(flat + 1) % len(left)]))
            left.pop(flat)
    ears.append((left[0], left[1], left[2]))
    return ears


def _cross(p: FloatArray, a: int, b: int, c: int) -> float:
    u, v = p[b] - p[a], p[c] - p[b]
    return float(u[0] * v[1] - u[1] * v[0])


def _is_ear(p: FloatArray, a: int, b: int, c: int, left: list[int]) -> bool:
    if _cross(p, a, b, c) <= 1e-14:
        return False
    for q in left:
        if q in (a, b, c):
            continue
        sides = (_side(p, a, b, q), _side(p, b, c, q), _side(p, c, a, q))
        if min(sides) >= -1e-14:
            return False
    return True


def _side(p: FloatArray, a: int, b: int, q: int) -> float:
    u, v = p[b] - p[a], p[q] - p[a]
    return float(u[0] * v[1] - u[1] * v[0])


def _trunk(name: str, part: str, ring: Ring) -> Mesh:
    """Return a ring or disc of a trunk."""
    at = [2 * pi * k / _ROUND for k in range(_ROUND)]

    def circle(r: float, z: float) -> list[tuple[float, float, float]]:
        return [(ring.x + r * cos(a), ring.y + r * sin(a), z) for a in at]

    inner = max(ring.inner_radius_m, 1e-4)
    rows = [circle(r, z) for r in (ring.outer_radius_m, inner) for z in (ring.z0, ring.z1)]
    points = np.array([p for row in rows for p in row]) * _MM
    n, triangles = _ROUND, []

    def band(a: int, b: int) -> None:
        for k in range(n):
            j = (k + 1) % n
            triangles.extend([(a * n + k, a * n + j, b * n + j), (a * n + k, b * n + j, b * n + k)])

    band(0, 1)  # outside
    band(3, 2)  # inside, looking in
    band(1, 3)  # above
    band(2, 0)  # below
    return Mesh(name, part, points, np.array(triangles))


def meshes_of(pieces: Iterable[Piece], hive: HiveSolids) -> list[Mesh]:
    """Return the meshes of all pieces; of a trunk those of its solids."""
    meshes = [
        # What is added to the solids is given where it is, not as a box that is bent.
        mesh_of(
            piece_name(p, (p.side,) if p.side else ()),
            p.part.label,
            p.shape,
            None if p.added else hive.bend,
        )
        for p in pieces
    ]
    if not meshes:
        meshes = [mesh_of(s.part, s.part, s.shape, hive.bend) for s in hive.solids]
    return meshes


def write_stl(path: Path, meshes: Iterable[Mesh]) -> list[str]:
    """Write a binary STL for every part, named after it; return the names of the files.

    Raises
    ------
    FileError
        When one cannot be written.
    """
    import io

    from stl import Mode
    from stl import mesh as stl_mesh

    parts: dict[str, list[Mesh]] = {}
    for mesh in meshes:
        parts.setdefault(mesh.part, []).append(mesh)
    written = []
    for part, group in parts.items():
        name = re.sub(r"[^a-z0-9]+", "-", part.lower()).strip("-")
        target = path.with_name(f"{path.stem}-{name}.stl")
        faces = np.concatenate([m.points[m.triangles] for m in group])
        data = np.zeros(len(faces), dtype=stl_mesh.Mesh.dtype)
        data["vectors"] = faces
        stream = io.BytesIO()
        stl_mesh.Mesh(data).save(target.name, fh=stream, mode=Mode.BINARY, update_normals=True)
        with atomic_write(target) as half:
            half.write_bytes(stream.getvalue())
        written.append(str(target))
    return written


def write_3mf(path: Path, meshes: Iterable[Mesh], title: str) -> None:
    """Write all pieces as named objects of one 3MF file, in millimetres.

    Raises
    ------
    FileError
        When it cannot be written.
    """
    import lib3mf

    wrapper = lib3mf.get_wrapper()
    model = wrapper.CreateModel()
    model.SetUnit(lib3mf.ModelUnit.MilliMeter)
    group = model.GetMetaDataGroup()
    group.AddMetaData("", "Title", title, "xs:string", True)
    for mesh in meshes:
        made = model.AddMeshObject()
        made.SetName(f"{mesh.part}: {mesh.name}")
        points = [lib3mf.Position((float(x), float(y), float(z))) for x, y, z in mesh.points]
        faces = [lib3mf.Triangle((int(a), int(b), int(c))) for a, b, c in mesh.triangles]
        made.SetGeometry(points, faces)
        model.AddBuildItem(made, wrapper.GetIdentityTransform())
    with atomic_write(path) as part:
        try:
            model.QueryWriter("3mf").WriteToFile(str(part))
        except lib3mf.ELib3MFException as error:
            raise FileError(path, f"cannot be written ({error})") from error
