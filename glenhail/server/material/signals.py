"""What the apps above may wait for."""

from django.dispatch import Signal

# Sent with ``picture`` when a file was decoded, or refused.
picture_settled = Signal()
# Sent with ``frame`` when its scene or kind was told.
frame_told = Signal()
# Sent with ``frame`` when its truth was set or taken away.
truth_changed = Signal()
