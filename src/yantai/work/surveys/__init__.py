"""Who can eat what: every recipe against every client, answered by workers."""
