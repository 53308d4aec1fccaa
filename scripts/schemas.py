"""Write the JSON Schemas of sets of questions, of guides and of preferences into ``docs``."""

from __future__ import annotations

import json
from pathlib import Path

from wesperon.documents.set_schema import set_schema
from wesperon.guides.schema import guide_schema
from wesperon.tool.preferences_schema import schema as preferences_schema

DOCS = Path(__file__).parent.parent / "docs"

for name, schema in (("set", set_schema()), ("guide", guide_schema()), ("preferences", preferences_schema())):
    (DOCS / f"{name}.schema.json").write_text(json.dumps(schema, indent=2) + "\n")
