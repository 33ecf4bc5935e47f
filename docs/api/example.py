"""A spring from a program: made, checked, surveyed, built, and its STEP file kept. Python alone is needed.

python docs/api/example.py [ADDRESS [TOKEN]]     (http://127.0.0.1:8000, and no token but in team mode)
"""

import json
import sys
import time
import urllib.request

ADDRESS = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8000"
TOKEN = sys.argv[2] if len(sys.argv) > 2 else None

RECIPE = {
    "format": "metaspira/1",
    "name": "Spring from a program",
    "variables": {"wire": 2},
    "path": {"kind": "coil", "diameter": "8 * wire", "turns": 7, "pitch": "2.5 * wire"},
    "section": {"kind": "round", "diameter": "wire"},
}


def ask(path, body=None):
    """The bytes of an answer; a body is sent as JSON."""
    headers = {"Content-Type": "application/json"}
    if TOKEN:
        headers["Authorization"] = f"Bearer {TOKEN}"
    data = None if body is None else json.dumps(body).encode()
    with urllib.request.urlopen(urllib.request.Request(ADDRESS + path, data, headers)) as answer:
        return answer.read()


def follow(path):
    """A job's last state."""
    while (told := json.loads(ask(path)))["state"] in ("queued", "running"):
        time.sleep(0.3)
    return told


report = json.loads(ask("/api/parts/check", RECIPE))
print(
    f"{report['verdict']}: {report['figures']['wire_length']:.2f} mm of wire, "
    f"{report['figures']['mass']:.2f} g"
)

over = [{"input": "/path/pitch", "low": 1.5, "high": 5, "count": 8}]
survey = json.loads(ask("/api/jobs", {"kind": "survey", "recipe": RECIPE, "over": over}))
found = follow(f"/api/jobs/{survey['id']}")["found"]
for pitch, verdict in zip(found["steps"][0], found["verdicts"], strict=True):
    print(f"  pitch {pitch:g}: {verdict}")

design = json.loads(ask("/api/designs", {"recipe": RECIPE}))
build = json.loads(ask(f"/api/designs/{design['id']}/builds", {"formats": [".step"]}))
done = follow(f"/api/jobs/{build['id']}")
print(f"{done['state']}: off the predicted volume by {done['proofs']['.step']['relative_error']:.1e}")
with open("spring.step", "wb") as file:
    file.write(ask(f"/api/jobs/{build['id']}/files/step"))
print("spring.step is written")
