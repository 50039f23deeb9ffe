"""The cycle library keeps a cache of its units for all processes of a person: two that begin at once read half a file.
Here each process has its own.
"""

import atexit
import os
import shutil
import tempfile

os.environ["XDG_CACHE_HOME"] = CACHE = tempfile.mkdtemp(prefix="ruddy-cache-")
atexit.register(shutil.rmtree, CACHE, ignore_errors=True)
