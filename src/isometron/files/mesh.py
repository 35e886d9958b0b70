"""The volumes as a mesh, for other programs: OBJ, glTF (.glb) or STL, in millimetres, Z up."""

import numpy as np

from isometron.document.document import Document
from isometron.framework.triangles import triangles_of
from isometron.perspective.errors import FileError
from isometron.words import _


def mesh_of(document: Document, kind: str) -> bytes:
    """The shown volumes as a mesh file of a kind; OBJ and glTF keep one part per volume.

    glTF is metres, Y up, as its standard asks; OBJ and STL are millimetres, Z up. Raises FileError
    when there is no volume.
    """
    import trimesh

    scene = trimesh.Scene()
    for number, volume in enumerate(document.volumes):
        if not volume.shown or volume.ghost:
            continue
        found = triangles_of(volume)
        if found is None:
            continue
        vertices, triangles = found
        part = trimesh.Trimesh(vertices, triangles, process=False)
        name = f"{number + 1:03d}_{volume.name}".replace(" ", "_")
        scene.add_geometry(part, node_name=name, geom_name=name)
    if not scene.geometry:
        raise FileError(_("There is no volume to send out: lay down a near edge first."))
    if kind == ".glb":
        to_metres_y_up = np.array(
            [[1e-3, 0, 0, 0], [0, 0, 1e-3, 0], [0, -1e-3, 0, 0], [0, 0, 0, 1.0]]
        )
        scene.apply_transform(to_metres_y_up)
    content = scene.export(file_type=kind.removeprefix("."), **_exactly(kind))
    return content.encode() if isinstance(content, str) else bytes(content)


def _exactly(kind: str) -> dict[str, int]:
    return {"digits": 9} if kind == ".obj" else {}
