"""The cycle library keeps a cache of its units for all processes of a person: two that begin at once read half a file.
Here each process has its own.
"""

import os
import tempfile

os.environ["XDG_CACHE_HOME"] = tempfile.mkdtemp(prefix="ruddy-cache-")
