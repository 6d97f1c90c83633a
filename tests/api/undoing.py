"""Taking back what a write answered."""

from typing import Any

from fastapi.testclient import TestClient
from httpx2 import Response


def undo(client: TestClient, answer: Response) -> list[str]:
    """Undo the change that this answer names; what of it could not be undone."""
    assert answer.status_code == 200, answer.text
    undone = client.post(f"/api/changes/{answer.headers['Valleywind-Change']}/undo")
    assert undone.status_code == 200, undone.text
    left: list[str] = undone.json()["left"]
    return left


def without_versions(result: Any) -> Any:
    """The same answer without what counts its changes."""
    if isinstance(result, dict):
        return {k: without_versions(v) for k, v in result.items() if k != "version"}
    return [without_versions(v) for v in result] if isinstance(result, list) else result
