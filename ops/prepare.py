"""What is done to the database before anybody is answered: its form, and the demo builds."""

import os
import sys


def main() -> int:
    """Bring the database up to date; `--demo`, with the demo builds."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    os.environ["YT_DB_STATEMENT_TIMEOUT_S"] = "0"
    import django
    from django.core.management import call_command

    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    if "--demo" in sys.argv[1:]:
        call_command("load_demo")
    return 0


if __name__ == "__main__":
    sys.exit(main())
