"""Mass, centre and inertia: closed forms of textbooks, and fine meshes of what has none."""

import json
import math
from pathlib import Path

import numpy as np
import pytest
import trimesh
from metaspira.cli import main
from metaspira.coiling.table import coiling_table
from metaspira.parts import bodies_of, part_of
from metaspira.parts.weight import weigh
from metaspira.problems import RecipeError
from metaspira.solids.brep import build_shape
from metaspira.solids.threading import thread_nets
from metaspira.threads.moments import moments_of_body
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps

DEMO = Path(__file__).resolve().parents[2] / "demo"


def straight(section, length=40, **more):
    path = {"kind": "straight", "length": length}
    return {"format": "metaspira/1", "path": path, "section": section, "material": "brass", **more}


def test_a_tube_and_a_block_are_those_of_the_textbook():
    """Tube: m (3 (R² + r²) + l²) / 12 across, m (R² + r²) / 2 along; block: m (a² + b²) / 12."""
    tube = weigh(part_of(straight({"kind": "tube", "diameter": 12, "wall": 2})))
    mass = 8.5e-3 * math.pi * (36 - 16) * 40
    across, along = mass * (3 * (36 + 16) + 1600) / 12, mass * (36 + 16) / 2
    assert tube.mass == pytest.approx(mass, rel=1e-12)
    assert tube.principal == pytest.approx(sorted([across, across, along]), rel=1e-10)
    assert tube.surface == pytest.approx(2 * math.pi * (6 + 4) * 40 + 2 * math.pi * 20, rel=1e-8)
    block = weigh(part_of(straight({"kind": "rectangle", "width": 8, "height": 5})))
    mass = 8.5e-3 * 8 * 5 * 40
    sides = [(8, 5), (8, 40), (5, 40)]
    assert block.principal == pytest.approx(sorted(mass * (a * a + b * b) / 12 for a, b in sides), rel=1e-10)
    size = np.subtract(block.high, block.low)
    assert sorted(size) == pytest.approx([5, 8, 40])


def test_a_ring_is_that_of_the_textbook():
    """A full turn without rise is a torus: m (R² + 3/4 a²) about its axis, m (R²/2 + 5/8 a²) across; area 4
    π² R a."""
    ring = weigh(
        part_of(
            {
                "format": "metaspira/1",
                "path": {"kind": "coil", "diameter": 40, "turns": 1, "height": 0},
                "section": {"kind": "round", "diameter": 6},
            }
        )
    )
    mass = 7.85e-3 * 2 * math.pi**2 * 20 * 9
    assert ring.mass == pytest.approx(mass, rel=1e-11)
    assert ring.centre == pytest.approx((0, 0, 0), abs=1e-9)
    across, along = mass * (200 + 5 / 8 * 9), mass * (400 + 0.75 * 9)
    assert ring.principal == pytest.approx([across, across, along], rel=1e-10)
    assert ring.surface == pytest.approx(4 * math.pi**2 * 20 * 3 + 2 * math.pi * 9, rel=1e-8)


@pytest.mark.thorough(only=["15-foghorn-star-tube"])
@pytest.mark.parametrize(
    "name",
    ["9-damper-spring-closed-ground", "15-foghorn-star-tube", "7-fog-bell-tail", "21-lens-clamp-bolt"],
)  # fmt: skip
def test_any_part_is_what_its_fine_mesh_says(name):
    part = part_of(json.loads((DEMO / f"{name}.spira.json").read_text()))
    found = weigh(part)
    meshes = [
        trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
        for mesh in (body.mesh(0.01) for body in bodies_of(part))
    ]
    whole = trimesh.util.concatenate(meshes)
    density = part.material.density
    assert found.mass == pytest.approx(part.volume * density, rel=1e-9)
    size = float(np.ptp(whole.bounds, axis=0).max())
    assert found.centre == pytest.approx(tuple(whole.center_mass), abs=2e-3 * size)
    inertia = density * np.array(whole.moment_inertia)
    assert np.abs(found.inertia - inertia).max() < 5e-3 * np.abs(inertia).max()
    assert found.surface == pytest.approx(whole.area, rel=5e-3)


def test_a_skin_has_a_surface_and_no_mass():
    recipe = json.loads((DEMO / "18-vent-cowl-skin.spira.json").read_text())
    del recipe["use"]["thickness"]
    skin = weigh(part_of(recipe))
    assert skin.mass == 0 and skin.centre is None and skin.surface > 0


def test_the_command_line_weighs(capsys):
    file = str(DEMO / "2-lens-carriage-cone.spira.json")
    for more in ([], ["--json"]):
        with pytest.raises(SystemExit) as left:
            main(["weigh", file, *more])
        assert left.value.code == 0
        told = capsys.readouterr().out
        if more:
            found = json.loads(told)
            low, high = found["principal"][0], found["principal"][-1]
            assert 0 < low < high and len(found["inertia"]) == 3
        else:
            assert "Centre of mass" in told and "g mm²" in told


def test_a_material_of_ones_own_weighs_looks_and_is_wound_as_it_says(spring):
    own = {"name": "Bog iron", "density": 7.2, "colour": "#445566", "modulus": 170000, "flow": 400}
    part = part_of({**spring, "material": own})
    assert weigh(part).mass == pytest.approx(part.volume * 7.2e-3)
    assert coiling_table(part).wire.flow == 400
    with pytest.raises(RecipeError) as refused:
        part_of({**spring, "material": {**own, "density": -1}})
    assert refused.value.problems[0].place.startswith("/material")


def test_a_finish_changes_the_look_and_its_coat_is_told_beside_the_mass(spring):
    bare = part_of(spring)
    plated = part_of({**spring, "finish": {"kind": "zinc", "thickness": 0.01}})
    weight = weigh(plated)
    assert weight.mass == weigh(bare).mass
    assert weight.coat == pytest.approx(weight.surface * 0.01 * 7.14e-3)
    assert weigh(bare).coat is None
    painted = part_of({**spring, "finish": {"kind": "painted", "colour": "#aa2211"}})
    assert painted.material.colour == "#aa2211"
    assert plated.material.colour != bare.material.colour


def test_the_box_is_as_high_as_the_part_is_said_to_be():
    for name in ("1-shutter-return-spring", "9-damper-spring-closed-ground", "4-gallery-baluster"):
        part = part_of(json.loads((DEMO / f"{name}.spira.json").read_text()))
        assert weigh(part).size[2] == part.quick_figures["overall_height"]


@pytest.mark.parametrize(
    ("thread", "host"),
    [
        ({"designation": "M10", "length": 6}, {"kind": "rod", "length": 9, "diameter": 10}),
        ({"designation": "Tr20x4"}, {"kind": "bore", "length": 10, "outside": 30}),
        ({"designation": "1/2-14 NPT"}, {"kind": "rod", "length": 15, "hole": 10}),
    ],
)
def test_a_thread_weighs_what_the_kernel_integrates_over_its_solid(thread, host):
    part = part_of({"format": "metaspira/1", "thread": thread, "host": host, "material": "brass"})
    found, density = weigh(part), part.material.density
    shape = build_shape(thread_nets(part.body)).shape
    inside, skin = GProp_GProps(), GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, inside, 1e-6, False, False)
    BRepGProp.SurfaceProperties_s(shape, skin, 1e-6)
    centre, matrix = inside.CentreOfMass(), inside.MatrixOfInertia()
    size = max(found.size)
    assert found.surface == pytest.approx(skin.Mass(), rel=2e-6)
    assert found.centre == pytest.approx((centre.X(), centre.Y(), centre.Z()), abs=2e-6 * size)
    for i in range(3):
        for j in range(3):
            kernel = density * matrix.Value(i + 1, j + 1)
            assert found.inertia[i][j] == pytest.approx(kernel, abs=1e-5 * found.principal[2]), (i, j)


def test_a_threaded_body_weighs_what_its_exact_volume_does():
    body = part_of(
        {
            "format": "metaspira/1",
            "thread": {"designation": "M10"},
            "host": {"kind": "bore", "length": 6, "outside": 17},
        }
    ).body
    assert moments_of_body(body).volume == pytest.approx(body.volume, rel=1e-12)
