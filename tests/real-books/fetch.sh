#!/usr/bin/env bash
# Fetches the source of a published book from a Debian source package, and its published pages from a binary package of
# the same version, through the machine's own apt set-up, of which it changes nothing.
# Usage: fetch.sh DIR SOURCE-PACKAGE FILES PACKAGE PAGES
#   FILES: what to unpack of the original archive, as a pattern below its top folder; PAGES: the folder of the pages
#   ->  DIR/source/…  and  DIR/published/*.html
set -euo pipefail
dir=$(mkdir -p "$1" && cd "$1" && pwd); source=$2; files=$3; package=$4; pages=$5
. "$(dirname "${BASH_SOURCE[0]}")/../support/apt-sources.sh"
cd "$dir"
# Of the versions that are listed, the newest whose source can be had; its pages must be of the same.
versions=$(apt-cache "${opts[@]}" showsrc "$source" 2> /dev/null | sed -n 's/^Version: //p' | sort -urV)
for version in $versions; do
  apt-get "${opts[@]}" source --download-only "$source=$version" >> "$apt/log" 2>&1 || continue
  apt-get "${opts[@]}" download "$package=$version" >> "$apt/log" 2>&1 || continue
  rm -rf source published unpacked && mkdir source published unpacked
  tar xf "$(ls "$source"_*.orig.tar.* | grep -v "[.]asc$")" -C source --strip-components=1 --wildcards "*/$files"
  dpkg-deb --fsys-tarfile "$package"_*.deb | tar x -C unpacked
  cp "unpacked/$pages"/*.html published/
  echo "version: $version"
  exit 0
done
echo "no version of $source could be fetched" >&2
exit 1
