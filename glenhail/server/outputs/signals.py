"""What the apps above may wait for."""

from django.dispatch import Signal

# Sent with ``output`` when its file, or what it was made from, is another one.
output_changed = Signal()
