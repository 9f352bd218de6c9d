"""``python -m powertrain``."""

import sys

from powertrain.cli import main

sys.exit(main())
