"""What the apps above may wait for."""

from django.dispatch import Signal

# Sent with ``study`` and ``frame`` when a study took it in, and when it let it go.
frame_taken = Signal()
frame_left = Signal()
# Sent with ``study`` and ``frame`` when a patch there was drawn, moved or removed, and with
# ``patch``, None where it is gone.
patch_changed = Signal()
# Sent with ``actor`` and ``study`` before it goes: whoever holds to it raises `Conflict`.
study_removing = Signal()
