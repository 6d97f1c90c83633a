"""The application served in a process of its own, as people serve it."""

import socket
import subprocess
import sys
import tempfile
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO


def serve(
    folder: Path, *words: str, log: IO[str] | None = None, ready_only: bool = False
) -> tuple[subprocess.Popen[str], str]:
    """Start the application on a free port; its process and address once it says that it is ready. log: where its
    errors go; ready_only: it is not asked whether it answers."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    program = str(Path(sys.executable).with_name("valleywind"))
    command = [program, "serve", "--data", str(folder), "--port", str(port), *words]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=log, text=True)
    assert process.stdout is not None
    lines = []
    while (line := process.stdout.readline()) and not line.startswith("Ready"):
        lines.append(line)
    assert line, f"It ended before it was ready: {''.join(lines)}"  # on its port another may answer
    address = f"http://127.0.0.1:{port}"
    if ready_only:
        return process, address
    with urllib.request.urlopen(f"{address}/api/shop", timeout=20) as answer:  # the socket takes calls from now on
        assert answer.status == 200
    return process, address


@contextmanager
def serving(*words: str) -> Iterator[str]:
    """The address of a server with files of its own, which ends with the block, however that ends."""
    with tempfile.TemporaryDirectory() as folder:
        process, address = serve(Path(folder), *words)
        try:
            yield address
        finally:
            process.terminate()
            process.wait(30)
