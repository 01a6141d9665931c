"""What storage tells those above it."""

from __future__ import annotations

from django.dispatch import Signal

# A file in pieces is there and is to be taken in by a job; sent within the transaction that writes
# so down. Hears `upload`.
upload_arrived = Signal()
