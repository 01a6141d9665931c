"""How large a picture may be before it is refused unread."""

MAX_PIXELS = 250_000_000
MAX_SIDE = 65_500


def too_large(width: int, height: int) -> bool:
    """Whether decoding would take more memory than a bench can spare."""
    return width * height > MAX_PIXELS or max(width, height) > MAX_SIDE
