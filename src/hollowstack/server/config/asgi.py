"""The web application, for an ASGI server."""

import gc
import os
import warnings
from typing import cast

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "hollowstack.server.config.settings")
_django = get_asgi_application()

from hollowstack.server.config.limits import Application, Limited  # noqa: E402, after the settings are there

application = Limited(cast("Application", _django))

# What is loaded by now stays for good: looking through it again and again made every tenth answer wait a tenth of a second.
gc.collect()
gc.freeze()
gc.set_threshold(20_000, 20, 20)

# Static files are handed out by a library that reads them synchronously; they are small, and read at once.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")
