"""Values for requests: what is asked for, what looks like it, and what nobody would type."""

import random
from collections.abc import Mapping, Sequence
from typing import Any

ODD: Sequence[Any] = (
    "", " ", "\x00", "a\x00b", "\ud800", "\udcff", "\u202e\u2066x", "\r\nSet-Cookie: a=b", "=1+1", "＝1+1", "１２",
    "٣", "½", "∞", "NaN", "nan", "inf", "-inf", "1e400", "1e-400", "-0", "0", "0.0", "-1", "1/0", "0/0", "9" * 400,
    "1." + "3" * 400, "1/" + "9" * 400, "1e308 in", "40x999999999", "40 " * 3000, "x" * 5000, "../../../etc/passwd",
    "..%2f..", "%00", "%", "{}", "[]", "null", "'; DROP TABLE wheel; --", "<script>alert(1)</script>", "Ä" * 40,
    "👍" * 20, "e\u0301" * 20, "M14x2", "M0x0", "M1e9x1e-9", "hob 24 m2 30° left face 20", "hob 1e9",
    "helix 24 m2 89.999°",
    "helix lead 1e-300 mm", "make 57 for Plover", "make 1 m1", "feed 1e-12 mm/rev", "20/20", "20/30*40/50*60/70",
    "1/1*" * 50,
    "48/37*40/80@24", "12 mm", "1/2 in", "30°", "30°15'", "-90°", "1e5 mm", "true", 0, 1, -1, 2**31, 2**53, 2**63,
    -(2**63),
    10**400, 0.5, -0.0, 1e308, 1e-320, True, False, None, [], {}, [[[[[[]]]]]], [None] * 50, {"a": {"a": {"a": {}}}},
)  # fmt: skip
"""What a field may be given instead of what it asks for."""
_DEEPEST = 6
_HELD: Mapping[str, Sequence[Any]] = {
    "train": ("32/64", "40/50*60/80", "72/28*52/56@1/2", "48/37*40/80@24", "40/50/80"),
    "measured": ("2.00", "119.4°", "1.99 mm", "20.0"), "over": ("10", "100 mm", "20 turns"),
    "wheels": ("40 40 45 50 worn 20", "20 21 22x3"), "teeth": (57, 40, 24, 127), "divisions": ("57", "127"),
    "key": ("fuzz-key-1", "fuzz-key-2", "fuzz-key-3"),
    "version": (1, 2, 3), "step": ("outside", "runout", "measure", "depth"), "figure": ("124.40", "0.35", "29.70"),
    "place": ("peg board by the headstock", "drawer"), "into": ("drawer",), "material": ("cast iron",),
    "name": ("Snipe", "Plover"), "seek": ("worn", "40"), "first": (20, 30), "last": (40, 60), "best": (5, 12),
}  # fmt: skip
_MACHINES: Mapping[str, Sequence[str]] = {
    "/api/lathe": ("plover", "dunlin", "curlew", "wren"), "/api/hobbers": ("avocet",), "/api/mills": ("heron",),
    "/api/dividing": ("heron", "grebe"),
}  # fmt: skip
_ASKS: Mapping[str, Sequence[str]] = {
    "/api/lathe": (
        "M14x2", "26 tpi left hand", "module 1.5 worm 3 starts", "feed 0.03 mm/rev across", "4 BA", '1"-64', "0.5 mm",
        "1 1/2-6 UNC left hand 2 starts", "DP 12 worm",
    ),
    "/api/hobbers": ("hob 37", "hob 107", "hob 24 m2 30° left face 20", "hob 63 12dp 3 blanks with 24"),
    "/api/mills": ("helix 24 m2 30° left face 20", "helix lead 300 mm", "flutes 6 lead 12 in dia 20"),
    "/api/wheels": ("57 m1.25", "127 12dp", "20 m1 20°"), "/api/dividing": ("divide 53", "127", "96"),
    "/api/jobs": ("make 57 for Plover", "make 127 m1", "make 31 for Dunlin"),
}  # fmt: skip
EVERY_MACHINE = ("plover", "dunlin", "curlew", "wren", "avocet", "heron", "grebe", "nothing", "new", "calipers")


def _of_route(known: Mapping[str, Sequence[str]], path: str, *else_: str) -> Sequence[str]:
    return next((values for begin, values in known.items() if path.startswith(begin)), else_)


def odd(draw: random.Random) -> Any:
    return draw.choice(ODD)


class Builder:
    """Builds requests by the program's own description of its routes. oddness: how often a value is an odd one; some
    requests have none."""

    def __init__(self, description: Mapping[str, Any], draw: random.Random) -> None:
        self.description, self.draw, self.oddness = description, draw, 0.0
        self.numbers: Mapping[str, Sequence[int]] = {}
        self._held = dict(_HELD)

    def next(self, path: str) -> None:
        """Begin another request."""
        self.oddness = self.draw.choice((0.0, 0.0, 0.1, 0.4))
        mixed = self.draw.random() < 0.2
        self._held = dict(_HELD) | {name: numbers for name, numbers in self.numbers.items() if numbers}
        self._held["machine"] = EVERY_MACHINE if mixed else _of_route(_MACHINES, path, *EVERY_MACHINE)
        self._held["ask"] = [a for asks in _ASKS.values() for a in asks] if mixed else _of_route(_ASKS, path, "M14x2")

    def operations(self) -> list[tuple[str, str, Mapping[str, Any]]]:
        """Method, path and description of every route."""
        return [
            (method.upper(), path, operation)
            for path, methods in self.description["paths"].items()
            for method, operation in methods.items()
        ]

    def parameters(self, operation: Mapping[str, Any], where: str) -> dict[str, Any]:
        """Values for the parameters in the path or the query; of those that need not be there some are not."""
        values = {}
        for one in operation.get("parameters", ()):
            if one["in"] == where and (where == "path" or one.get("required") or self.draw.random() < 0.5):
                values[one["name"]] = self.value(one["schema"], one["name"])
        return values

    def body(self, operation: Mapping[str, Any]) -> tuple[str, Any]:
        """The media type of what is sent, and a value by its description; none where nothing is."""
        kinds = operation.get("requestBody", {}).get("content", {})
        for kind, described in kinds.items():
            return kind, self.value(described.get("schema", {}), "")
        return "", None

    def value(self, schema: Mapping[str, Any], name: str, deep: int = 0) -> Any:
        """One by its schema and its name, or an odd one."""
        draw = self.draw
        if draw.random() < self.oddness / (deep + 1):
            return odd(draw)
        if name in self._held and draw.random() < 0.8:
            values = self._held[name]
            return draw.choices(values, k=draw.randint(1, 3)) if schema.get("type") == "array" else draw.choice(values)
        if "$ref" in schema:
            schema = self.description["components"]["schemas"][schema["$ref"].rpartition("/")[2]]
        for choice in ("anyOf", "oneOf"):
            if choice in schema:
                return self.value(draw.choice(schema[choice]), name, deep)
        examples = [*schema.get("examples", ()), *([schema["example"]] if "example" in schema else ())]
        if examples and draw.random() < 0.7:
            return draw.choice(examples)
        if "enum" in schema:
            return draw.choice(schema["enum"])
        return self._plain(schema, name, deep)

    def _plain(self, schema: Mapping[str, Any], name: str, deep: int) -> Any:
        draw = self.draw
        match schema.get("type"):
            case "object" if deep < _DEEPEST:
                needed = schema.get("required", ())
                return {
                    key: self.value(one, key, deep + 1)
                    for key, one in schema.get("properties", {}).items()
                    if (key in needed and draw.random() > self.oddness / 8) or draw.random() < 0.7
                }
            case "array" if deep < _DEEPEST:
                return [self.value(schema.get("items", {}), name, deep + 1) for _ in range(draw.randint(0, 3))]
            case "integer":
                least, most = int(schema.get("minimum", -5)), int(min(400, schema.get("maximum", 400)))
                return draw.choice((max(0, least), max(1, least), draw.randint(least, max(least, most))))
            case "number":
                return draw.choice((0.0, 1.0, 0.5, draw.uniform(-100, 100)))
            case "boolean":
                return draw.random() < 0.5
            case "null":
                return None
        return draw.choice(("", "", "", "20", "24", "1.5", "12 mm", "1/2 in", "x"))
