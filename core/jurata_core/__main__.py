"""``python -m jurata_core``: the command line."""

import sys

try:
    from .cli import main
except KeyboardInterrupt:
    sys.exit(130)

sys.exit(main())
