"""Hostile files, made small and meant to grow: by name, the bytes and the suffix."""

import io
import json
import zipfile


def nested_uses(levels=20, each=10):
    """Each group uses the one below it ten times: 10²⁰ lines in two kilobytes."""
    groups = ['<g id="g0"><path d="M0 0 L1 1"/></g>']
    for n in range(levels):
        groups.append(f'<g id="g{n + 1}">' + f'<use href="#g{n}"/>' * each + "</g>")
    return svg("".join(groups))


def svg(body):
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40">{body}</svg>'
    ).encode()


def entities(encoding="utf-8"):
    """Entities of entities, in an encoding where no plain search finds the word."""
    levels = "".join(f'<!ENTITY e{n + 1} "{f"&e{n};" * 10}">' for n in range(12))
    return (
        f'<?xml version="1.0" encoding="{encoding}"?><!DOCTYPE svg [<!ENTITY e0 "x">{levels}]>'
        '<svg xmlns="http://www.w3.org/2000/svg"><text>&e12;</text></svg>'
    ).encode(encoding)


def long_path(bytes_=3_900_000):
    return svg(f'<path d="M0 0 {"l1 1 l1-1 " * (bytes_ // 10)}"/>')


def dxf(entities_):
    return f"0\nSECTION\n2\nENTITIES\n{entities_}0\nENDSEC\n0\nEOF\n".encode()


def long_polyline(points=120_000):
    rows = "".join(f"10\n{n}\n20\n{n % 7}\n" for n in range(points))
    return dxf(f"0\nLWPOLYLINE\n8\n0\n90\n{points}\n70\n0\n{rows}")


def blocks_of_blocks(levels=20, each=10):
    """Blocks that hold ten of the one below."""
    text = "0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nb0\n0\nLINE\n8\n0\n10\n0\n20\n0\n11\n1\n21\n1\n0\nENDBLK\n"
    for n in range(levels):
        text += (
            f"0\nBLOCK\n2\nb{n + 1}\n" + f"0\nINSERT\n8\n0\n2\nb{n}\n10\n0\n20\n0\n" * each + "0\nENDBLK\n"
        )
    return (
        text
        + f"0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nINSERT\n8\n0\n2\nb{levels}\n10\n0\n20\n0\n0\nENDSEC\n0\nEOF\n"
    ).encode()


def zip_of(members):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        for name, data in members.items():
            file.writestr(name, data)
    return out.getvalue()


def threemf(model):
    return zip_of({"3D/3dmodel.model": model})


def threemf_components(levels=24, each=10):
    """Objects of ten objects of ten objects."""
    mesh = (
        '<mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" '
        'z="0"/></vertices><triangles><triangle v1="0" v2="1" v3="2"/></triangles></mesh>'
    )
    objects = f'<object id="1" type="model">{mesh}</object>'
    for n in range(levels):
        parts = f'<component objectid="{n + 1}"/>' * each
        objects += f'<object id="{n + 2}" type="model"><components>{parts}</components></object>'
    return threemf(
        '<model unit="millimeter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">'
        f'<resources>{objects}</resources><build><item objectid="{levels + 1}"/></build></model>'
    )


def glb(told):
    """A GLB file with a description and no data."""
    text = json.dumps(told).encode()
    text += b" " * (-len(text) % 4)
    chunk = len(text).to_bytes(4, "little") + b"JSON" + text
    return b"glTF\x02\0\0\0" + (12 + len(chunk)).to_bytes(4, "little") + chunk


def gltf(nodes, count=3, meshes=1):
    return {
        "asset": {"version": "2.0"},
        "scenes": [{"nodes": [len(nodes) - 1]}],
        "nodes": nodes,
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}}]}] * meshes,
        "accessors": [{"componentType": 5126, "type": "VEC3", "count": count}],
    }


def nodes_of_nodes(levels=24, each=10):
    return [{"mesh": 0}, *({"children": [n] * each} for n in range(levels))]


def threemf_items(count=200_000, triangles=4000):
    """One mesh, built very often."""
    mesh = (
        '<mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" '
        'z="0"/></vertices><triangles>'
    )
    mesh += '<triangle v1="0" v2="1" v3="2"/>' * triangles + "</triangles></mesh>"
    return threemf(
        '<model unit="millimeter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources>'
        f'<object id="1" type="model">{mesh}</object></resources><build>'
        + '<item objectid="1"/>' * count
        + "</build></model>"
    )


DRAWINGS = {
    "nested uses": (nested_uses, ".svg"),
    "a use of itself": (lambda: svg('<g id="a"><use href="#a"/></g>'), ".svg"),
    "entities": (entities, ".svg"),
    "entities in UTF-16": (lambda: entities("utf-16"), ".svg"),
    "deep groups": (lambda: svg("<g>" * 5000 + "</g>" * 5000), ".svg"),
    "many elements": (lambda: svg("<g/>" * 500_000), ".svg"),
    "a long path": (long_path, ".svg"),
    "a long polyline": (long_polyline, ".dxf"),
    "blocks of blocks": (blocks_of_blocks, ".dxf"),
}
BODIES = {
    "an STL that promises more than it has": (lambda: b"\0" * 80 + (2**32 - 1).to_bytes(4, "little"), ".stl"),
    "an OBJ that is all zeros": (lambda: b"\0" * 1_000_000, ".obj"),
    "a PLY that promises more than it has": (
        lambda: (
            b"ply\nformat binary_little_endian 1.0\nelement vertex 4000000000\nproperty double "
            b"x\nproperty double y\n"
            b"property double z\nend_header\n"
        ),
        ".ply",
    ),
    "a 3MF that unpacks to much": (lambda: threemf(b"<model>" + b" " * 300_000_000 + b"</model>"), ".3mf"),
    "objects of objects": (threemf_components, ".3mf"),
    "a GLB that promises more than it has": (
        lambda: b"glTF\x02\0\0\0\xff\xff\xff\xff\xff\xff\xff\x7fJSON{}",
        ".glb",
    ),
    "a GLB of nodes of nodes": (lambda: glb(gltf(nodes_of_nodes())), ".glb"),
    "a GLB of one mesh very often": (lambda: glb(gltf([{"mesh": 0}] * 9000, count=1_000_000)), ".glb"),
    "a GLB of places that it does not hold": (lambda: glb(gltf([{"mesh": 0}], count=4_000_000_000)), ".glb"),
    "a GLB whose node is its own child": (lambda: glb(gltf([{"mesh": 0}, {"children": [1]}])), ".glb"),
    "a GLB of damaged rows": (
        lambda: glb({**gltf([{"mesh": 0}]), "meshes": {"a": 1}, "accessors": [1]}),
        ".glb",
    ),
    "a 3MF of one mesh very often": (threemf_items, ".3mf"),
    "an STL of too many triangles": (
        lambda: b"\0" * 80 + (600_000).to_bytes(4, "little") + b"\0" * 30_000_000,
        ".stl",
    ),
    "a long STEP": (
        lambda: (
            b"ISO-10303-21;\nDATA;\n"
            + b"#1=CARTESIAN_POINT('',(0.,0.,0.));\n" * 1_000_000
            + b"END-ISO-10303-21;"
        ),
        ".step",
    ),
    "a STEP that is cut short": (lambda: b"ISO-10303-21;\nHEADER;\n" + b"#1=(" * 10_000, ".step"),
}
