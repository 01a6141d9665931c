"""What the apps above may wait for."""

from django.dispatch import Signal

# Sent with ``outputs`` of one study when their files, or what they were made from, are others.
outputs_changed = Signal()
