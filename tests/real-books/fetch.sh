#!/usr/bin/env bash
# Fetches the source of PostgreSQL's documentation (one DocBook book of a million words) and the pages that Debian
# published from the same version, through the machine's own apt set-up, of which it changes nothing.
# Usage: fetch.sh DIR   ->  DIR/source/…  and  DIR/published/*.html
set -euo pipefail
dir=$(mkdir -p "$1" && cd "$1" && pwd)
. "$(dirname "${BASH_SOURCE[0]}")/../support/apt-sources.sh"
cd "$dir"
# Of the versions that are listed, the newest whose source can be had; its pages must be of the same.
versions=$(apt-cache "${opts[@]}" showsrc postgresql-15 2> /dev/null | sed -n 's/^Version: //p' | sort -urV)
for version in $versions; do
  apt-get "${opts[@]}" source --download-only "postgresql-15=$version" >> "$apt/log" 2>&1 || continue
  apt-get "${opts[@]}" download "postgresql-doc-15=$version" >> "$apt/log" 2>&1 || continue
  rm -rf source published unpacked && mkdir source published unpacked
  tar xf postgresql-15_"${version%-*}".orig.tar.* -C source --strip-components=4 --wildcards '*/doc/src/sgml/*'
  dpkg-deb --fsys-tarfile postgresql-doc-15_*.deb | tar x -C unpacked
  cp unpacked/usr/share/doc/postgresql-doc-15/html/*.html published/
  echo "version: $version"
  exit 0
done
echo "no version of postgresql-15 could be fetched" >&2
exit 1
