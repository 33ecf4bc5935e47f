"""The reference page of the API, made from its own schema."""

from __future__ import annotations

import json
from html import escape
from typing import Any

from django.http import HttpRequest, HttpResponse

_STYLE = """
body { font: 15px/1.5 "Source Sans 3 Variable", sans-serif; background: #efe7d8; color: #2b2723;
  margin: 0 auto; max-width: 60rem; padding: 2rem }
h1, h2 { font-family: "Source Serif 4 Variable", serif }
h2 { border-bottom: 2px solid #96491f; margin-top: 2.5rem }
section { background: #faf6ec; border: 1px solid #d3c7b2; margin: 0.8rem 0; padding: 0.6rem 1rem }
h3 { font: 600 15px monospace; margin: 0 } b { color: #96491f; display: inline-block; min-width: 4.2rem }
pre { overflow-x: auto; font-size: 12.5px; background: #efe7d8; padding: 0.6rem } summary { cursor: pointer }
table { border-collapse: collapse } td { padding: 0.1rem 1rem 0.1rem 0; vertical-align: top }
code { font-size: 13px }
"""


def page(request: HttpRequest) -> HttpResponse:
    """Every call with what it takes and gives."""
    from api import api

    schema = api.get_openapi_schema()
    groups: dict[str, list[str]] = {}
    for path, methods in schema["paths"].items():
        for method, call in methods.items():
            groups.setdefault(call.get("tags", ["other"])[0], []).append(_call(path, method, call))
    shapes = "".join(_shape(name, shape) for name, shape in schema["components"]["schemas"].items())
    body = "".join(f"<h2>{escape(tag.capitalize())}</h2>{''.join(calls)}" for tag, calls in groups.items())
    return HttpResponse(
        "<!doctype html><html lang=en><meta charset=utf-8><title>Metaspira, the "
        f"API</title><style>{_STYLE}</style>"
        f"<h1>Metaspira, the API</h1><p>Version {escape(schema['info']['version'])}. Bodies are "
        "JSON; lengths in answers are "
        "millimetres. A refusal holds <code>problems</code>, each with place, reason and remedy. In "
        "team mode a program sends "
        "<code>Authorization: Bearer TOKEN</code>. The same as <a href=/api/openapi.json>OpenAPI</a>.</p>"
        f"{body}<h2>Shapes</h2>{shapes}"
    )


def _given(content: dict[str, Any]) -> str:
    shapes = (_kind_link(it.get("schema", {})) or escape(kind) for kind, it in content.items())
    return ", ".join(shapes) or "nothing"


def _call(path: str, method: str, call: dict[str, Any]) -> str:
    takes = "".join(
        f"<tr><td><code>{escape(one['name'])}</code><td>{escape(one['in'])}<td>{escape(_kind(one['schema']))}"
        for one in call.get("parameters", [])
    )
    content = call.get("requestBody", {}).get("content", {})
    takes += "".join(
        f"<tr><td>body<td>{escape(kind)}<td>{_kind_link(it['schema'])}" for kind, it in content.items()
    )
    gives = "".join(
        f"<tr><td>{code}<td colspan=2>{_given(answer.get('content', {}))}"
        for code, answer in call["responses"].items()
    )
    return (
        f"<section><h3><b>{method.upper()}</b>{escape(path)}</h3><p>{escape(call.get('description', ''))}</p>"
        f"<table>{takes}{gives}</table></section>"
    )


def _kind(schema: dict[str, Any]) -> str:
    if "$ref" in schema:
        return str(schema["$ref"]).rsplit("/", 1)[-1]
    if "anyOf" in schema or "oneOf" in schema:
        return " or ".join(_kind(one) for one in schema.get("anyOf") or schema.get("oneOf") or [])
    if schema.get("type") == "array":
        return f"list of {_kind(schema.get('items', {}))}"
    return str(schema.get("type", ""))


def _kind_link(schema: dict[str, Any]) -> str:
    kind = _kind(schema)
    name = kind.removeprefix("list of ")
    return f"<a href='#{escape(name)}'>{escape(kind)}</a>" if name[:1].isupper() else escape(kind)


def _shape(name: str, shape: dict[str, Any]) -> str:
    text = escape(json.dumps(shape, indent=1, ensure_ascii=False))
    return (
        "<details "
        f"id='{escape(name)}'><summary><code>{escape(name)}</code></summary><pre>{text}</pre></details>"
    )
