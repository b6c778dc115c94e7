"""Building a wheel or a source archive: the front end is built first, and goes along."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path
from typing import Any

from hatchling.builders.hooks.plugin.interface import BuildHookInterface


class FrontEnd(BuildHookInterface[Any]):
    """Has the front end built. An installation that is edited needs none of it: whoever edits builds it by ``make``."""

    def initialize(self, version: str, build_data: dict[str, Any]) -> None:  # noqa: ARG002
        """Build it, or refuse in the words of the build."""
        if version == "editable":
            return
        built = subprocess.run([sys.executable, str(Path(self.root) / "frontend" / "build.py")], check=False)
        if built.returncode:
            raise SystemExit(built.returncode)
