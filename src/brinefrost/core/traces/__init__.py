"""Logger files: what they say, what was assumed in reading them, and what was left out."""

from brinefrost.core.traces.model import Assumption, Channel, Trace, TraceOptions
from brinefrost.core.traces.read import LARGEST_BYTES, read_trace

__all__ = ["LARGEST_BYTES", "Assumption", "Channel", "Trace", "TraceOptions", "read_trace"]
