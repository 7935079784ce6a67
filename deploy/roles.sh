#!/bin/sh
# The two roles and the database of docs/operations.md, for a PostgreSQL that is new. OWNER_PASSWORD and SERVER_PASSWORD hold their passwords.
set -eu
psql -v ON_ERROR_STOP=1 -v owner="${OWNER_PASSWORD:?}" -v server="${SERVER_PASSWORD:?}" "$@" <<'SQL'
create role estafette_owner login password :'owner';
create role estafette_server login password :'server';
create database estafette owner estafette_owner;
revoke all on database estafette from public;
grant connect, temporary on database estafette to estafette_server;
SQL
