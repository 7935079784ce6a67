#!/bin/sh
# A backup while everything runs: deploy/backup.sh FILE. DATABASE_OWNER_URL names the database, as the role that owns it.
set -eu
pg_dump --format=custom --no-privileges --file="${1:?name the file}" "${DATABASE_OWNER_URL:?}"
