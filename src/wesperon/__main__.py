"""``python -m wesperon``."""

from wesperon.tool.main import main

raise SystemExit(main())
