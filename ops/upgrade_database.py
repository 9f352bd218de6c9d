"""The data under a newer PostgreSQL: ``python -m ops.upgrade_database``, the product stopped.

The data of one version can't be read by the next. They are taken out by the version that wrote
them and put into a new cluster of the newest version installed; the old cluster is kept beside it.
"""

import sys

from ops.backup import BackupError, keep_one, restore
from ops.cluster import LOCAL, Cluster, ClusterError, cluster_below, newest_version
from ops.owner import Owner, Taken


def upgrade(cluster: Cluster) -> str:
    """Bring a stopped cluster to the newest version installed; return what was done, in words.

    Raises
    ------
    BackupError, ClusterError
        If that is not possible. The cluster is as it was then.
    """
    before, newest = cluster.version(), newest_version()
    if before is None:
        return f"There are no data yet; they will be of version {newest}."
    if before == newest:
        return f"The data are of version {before}, the newest installed. Nothing was changed."
    cluster.start()
    try:
        kept = keep_one(cluster, f"version-{newest}")
    finally:
        cluster.stop()
    aside = cluster.data.with_name(f"data.{before}")
    if aside.exists():
        raise ClusterError(f"{aside} is there already, from before; move it away first")
    cluster.data.rename(aside)
    try:
        cluster.start()
        restore(cluster, kept)
    except (BackupError, ClusterError, OSError):
        cluster.stop()
        if cluster.data.exists():
            cluster.data.rename(cluster.data.with_name(f"data.{newest}.broken"))
        aside.rename(cluster.data)
        raise
    cluster.stop()
    return (
        f"The data are of version {newest} now. As they were they are kept in {aside} and {kept}."
    )


def main() -> int:
    """Upgrade the product's data."""
    LOCAL.mkdir(parents=True, exist_ok=True)
    try:
        owner = Owner(LOCAL)
        print(upgrade(cluster_below(LOCAL)))
        owner.leave()
    except (BackupError, ClusterError, Taken) as problem:
        print(problem, file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
