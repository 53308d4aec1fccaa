"""How long something took, as people read it."""

from __future__ import annotations


def elapsed(seconds: float) -> str:
    """``2.3s``, ``42s``, ``1m5s``, ``2h3m``: as a duration is written, without what is too small to matter."""
    if seconds < 9.95:
        return f"{seconds:.1f}s"
    whole = round(seconds)
    if whole < 60:
        return f"{whole}s"
    if whole < 3600:
        return f"{whole // 60}m{whole % 60}s"
    minutes = round(seconds / 60)
    return f"{minutes // 60}h{minutes % 60}m"
