"""The measuring core: pictures in, numbers out.

It knows no web, no database and no Django.
"""

import os

# The core spreads its own work over the processors; a linear-algebra library that does the same
# inside every small product only makes the two wait for each other (measured: 1.6 to 3.3 times
# slower line-up).
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
