#!/bin/sh
# A backup into a new database: deploy/restore.sh FILE NAME, as PostgreSQL's superuser (connected to by the usual PGHOST, PGPORT, PGUSER, PGPASSWORD).
# Nothing but our two roles may enter it. Run "npm run migrate" on it then: it gives the server's role its rights.
set -eu
file="${1:?name the file}"
name="${2:?name the new database}"
psql -v ON_ERROR_STOP=1 -v name="$name" -d postgres <<'SQL'
create database :"name" owner estafette_owner;
revoke all on database :"name" from public;
grant connect, temporary on database :"name" to estafette_server;
SQL
pg_restore --no-privileges --role=estafette_owner --no-owner --exit-on-error --dbname="$name" "$file"
