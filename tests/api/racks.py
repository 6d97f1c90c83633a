"""The rack as the API tells it."""

from typing import Any

from fastapi.testclient import TestClient

from tests.api.undoing import without_versions


def rack(client: TestClient) -> dict[str, Any]:
    result: dict[str, Any] = without_versions(client.get("/api/rack").json())
    return result


def wheel(client: TestClient, teeth: int, family: str = "Plover's wheels", **more: object) -> dict[str, Any]:
    number = next(f["id"] for f in rack(client)["families"] if f["name"] == family)
    return next(
        w
        for w in rack(client)["wheels"]
        if w["teeth"] == teeth and w["family"] == number and all(w[k] == v for k, v in more.items())
    )


def bare(result: dict[str, Any]) -> list[dict[str, Any]]:
    return sorted((w for w in result["wheels"]), key=lambda w: str(w["id"]))
