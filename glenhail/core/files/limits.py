"""How large a picture may be before it is refused unread."""

MAX_PIXELS = 250_000_000
MAX_SIDE = 65_500
MOST_CHANNELS = 16


# A file that claims more pixels than this must be large enough to hold them: pictures are seldom
# packed tighter than 200 : 1, and a damaged or hostile header must not make the bench find room for
# what is not there.
SURELY_HELD = 40_000_000
TIGHTEST = 200


def too_large(width: int, height: int) -> bool:
    """Whether decoding would take more memory than a bench can spare.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    return width * height > MAX_PIXELS or max(width, height) > MAX_SIDE


def can_hold(size_bytes: int, width: int, height: int, channels: int, bits: int) -> bool:
    """Whether a file of that size can hold the picture its header tells of.

    Parameters
    ----------
    size_bytes : int
        The file's size, bytes.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    channels : int
        Samples a pixel.
    bits : int
        Bits a sample.
    """
    return (
        width * height <= SURELY_HELD
        or width * height * channels * bits // 8 <= TIGHTEST * size_bytes
    )
