"""What is done to the database before anybody is answered: its form, and the demo builds."""

import os
import sys


def main() -> int:
    """Bring the database up to date; `--demo`, with the demo builds."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    os.environ["YT_DB_STATEMENT_TIMEOUT_S"] = "0"
    import django
    from django.core.management import call_command

    from ops.backup import behind_program, keep_one, newer_than_program
    from ops.cluster import LOCAL, cluster_below

    django.setup()
    cluster = cluster_below(LOCAL)
    newer = newer_than_program(cluster)
    if newer:
        print(
            f"The database is of a newer program: it has {newer[0]}, which this one does not know."
            " Nothing was changed. Bring the program up to date, or bin/restore an older backup.",
            file=sys.stderr,
        )
        return 1
    if behind_program(cluster):
        kept = keep_one(cluster, "change-of-form")
        print(f"The database changes its form; as it was it is kept in {kept}", flush=True)
    call_command("migrate", verbosity=0, interactive=False)
    if "--demo" in sys.argv[1:]:
        call_command("load_demo")
        call_command("load_demo_rides")
        call_command("load_demo_log")
        call_command("load_demo_briefs")
    return 0


if __name__ == "__main__":
    sys.exit(main())
