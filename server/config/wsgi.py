"""The server's entry point for gunicorn."""

import gc
import os
import sys

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
application = get_wsgi_application()

# Verdicts are many small rows without cycles: to look for cycles among all that is kept takes a tenth of a second.
gc.freeze()
gc.set_threshold(50_000, 20, 50)
# A report being made holds up a key less when threads take turns more often than every 5 ms.
sys.setswitchinterval(0.0005)
