"""python -m hollow_keel"""

import sys

from .cli import main

sys.exit(main())
