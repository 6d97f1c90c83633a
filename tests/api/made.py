"""Jobs made, typed over, measured and cut through the API."""

from typing import Any
from uuid import uuid4

from fastapi.testclient import TestClient


def made(client: TestClient, ask: str = "make 57 for Plover") -> Any:
    answer = client.post("/api/jobs", json={"ask": ask})
    assert answer.status_code == 200, answer.text
    return answer.json()


def told(client: TestClient, job: int, kind: str, status: int = 200, **about: Any) -> Any:
    body = {"key": uuid4().hex, "kind": kind, **about}
    answer = client.post(f"/api/jobs/{job}/session/events", json=body)
    assert answer.status_code == status, answer.text
    return answer.json()


def put(client: TestClient, job: Any, status: int = 200, **changes: Any) -> Any:
    answer = client.put(f"/api/jobs/{job['id']}", json=job["typed"] | changes)
    assert answer.status_code == status, answer.text
    return answer.json()


def found(client: TestClient, job: int, step: str, figure: str, status: int = 200) -> Any:
    answer = client.put(f"/api/jobs/{job}/results", json={"step": step, "figure": figure})
    assert answer.status_code == status, answer.text
    return answer.json()
