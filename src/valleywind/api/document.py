"""The API's own description as a page to read, with every operation and record: no script, no network."""

from html import escape
from typing import Any

from fastapi import FastAPI
from fastapi.responses import HTMLResponse

from valleywind.api import advice, field_words

_STYLE = """
body { font: 16px/1.5 sans-serif; max-width: 60rem; margin: 0 auto; padding: 1rem; color: #16201c; background: #f6f3ec }
h2 { margin-top: 2.5rem; border-bottom: 2px solid #2f4a45 } h3 { margin: 2rem 0 .2rem; font-size: 1rem }
code { font-family: monospace; overflow-wrap: anywhere } table { border-collapse: collapse; width: 100% }
td, th { border-top: 1px solid #bbb; padding: .25rem .75rem .25rem 0; text-align: left; vertical-align: top }
nav a { margin-right: 1rem } a { color: #1d5a8c }
@media (prefers-color-scheme: dark) { body { color: #eee; background: #16201c } a { color: #9cc8ee } }
"""

Described = dict[str, Any]


def install(app: FastAPI) -> None:
    """Serve the description at /api/docs, and say of every field what it holds."""
    made = app.openapi

    def described() -> Described:
        if app.openapi_schema is None:
            field_words.describe(made())
            advice.describe(made())
        return made()

    app.openapi = described  # type: ignore[method-assign]  # the way that FastAPI names for it

    @app.get("/api/docs", include_in_schema=False)
    def read_document() -> HTMLResponse:
        return HTMLResponse(page(app.openapi()))


def page(document: Described) -> str:
    """An OpenAPI document as HTML: its operations by tag, then its records. Every text of it is escaped."""
    by_tag: dict[str, list[str]] = {}
    for path, methods in document["paths"].items():
        for method, operation in methods.items():
            by_tag.setdefault(operation["tags"][0], []).append(_operation(method, path, operation))
    records = document["components"]["schemas"]
    title = escape(f"{document['info']['title']} {document['info']['version']}")
    links = "".join(f'<a href="#{escape(tag)}">{escape(tag)}</a>' for tag in by_tag)
    return (
        f"<!doctype html><html lang=en><meta charset=utf-8><meta name=viewport content='width=device-width'>"
        f"<title>{title}: the API</title><style>{_STYLE}</style><h1>{title}: the API</h1>"
        f"<p>{_text(document['info'].get('description', ''))}</p>"
        f'<p>The same for a program: <a href="/api/openapi.json">/api/openapi.json</a>.</p>'
        f'<nav>{links}<a href="#records">records</a></nav>'
        + "".join(f'<h2 id="{escape(tag)}">{escape(tag)}</h2>{"".join(every)}' for tag, every in by_tag.items())
        + '<h2 id="records">records</h2>'
        + "".join(_record(name, schema) for name, schema in records.items())
    )


def _operation(method: str, path: str, operation: Described) -> str:
    taken = [
        (p["name"], _kind(p["schema"]), p.get("description", ""), p["in"] + (", needed" if p.get("required") else ""))
        for p in operation.get("parameters", [])
    ]
    body = [_kind(content["schema"]) for content in operation.get("requestBody", {}).get("content", {}).values()]
    answers = [
        (status, ", ".join(_kind(c.get("schema", {})) or kind for kind, c in answer.get("content", {}).items()),
         answer["description"], ", ".join(answer.get("headers", {})))
        for status, answer in operation["responses"].items()
    ]  # fmt: skip
    return (
        f"<h3 id='{escape(operation['operationId'])}'><code>{method.upper()} {escape(path)}</code></h3>"
        f"<p>{_text(operation.get('description', ''))}</p>"
        + _table(taken)
        + (f"<p>Takes {body[0]}.</p>" if body else "")
        + _table(answers)
    )


def _record(name: str, schema: Described) -> str:
    needed = set(schema.get("required", []))
    fields = [
        (field, _kind(one), one.get("description", ""), _example(one) or ("needed" if field in needed else ""))
        for field, one in schema.get("properties", {}).items()
    ]
    words = [(str(word), "", "", "") for word in schema.get("enum", [])]
    return (
        f"<h3 id='{escape(name)}'><code>{escape(name)}</code></h3><p>{_text(schema.get('description', ''))}</p>"
        + _table([*fields, *words])
    )


def _kind(schema: Described) -> str:
    """What a value is, as HTML; a record by its name, which leads to it."""
    if "$ref" in schema:
        name = escape(schema["$ref"].rsplit("/", 1)[-1])
        return f'<a href="#{name}">{name}</a>'
    if "anyOf" in schema:
        return " or ".join(_kind(one) for one in schema["anyOf"])
    if schema.get("type") == "array":
        return f"list of {_kind(schema.get('items', {}))}"
    if "enum" in schema:
        return escape(" | ".join(map(str, schema["enum"])))
    return escape(str(schema.get("const", schema.get("type", ""))))


def _example(schema: Described) -> str:
    return f"e.g. {schema['examples'][0]}" if schema.get("examples") else ""


def _table(rows: list[tuple[str, str, str, str]]) -> str:
    """Rows of a name, a kind that is HTML already, what it means, and what else is said."""
    cells = (
        f"<tr><td><code>{escape(name)}</code><td>{kind}<td>{_text(means)}<td>{escape(more)}"
        for name, kind, means, more in rows
    )
    return f"<table>{''.join(cells)}</table>" if rows else ""


def _text(text: str) -> str:
    return escape(text.strip()).replace("\n\n", "<p>")
