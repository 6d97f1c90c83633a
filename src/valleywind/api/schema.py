"""Print the OpenAPI document: `python -m valleywind.api.schema`. The front end's client is generated from it."""

import json
from pathlib import Path

from sqlalchemy import create_engine

from valleywind.api.app import make_app
from valleywind.shop.models import Base
from valleywind.shop.store import Store

if __name__ == "__main__":
    engine = create_engine("sqlite://")
    Base.metadata.create_all(engine)
    app = make_app(Store(Path(), engine))
    print(json.dumps(app.openapi(), indent=1))
