"""Who writes and under which id, for whoever carries requests to the services."""

from nudge.store.context import Sent, carries_out, writer, writes_as

__all__ = ["Sent", "carries_out", "writer", "writes_as"]
